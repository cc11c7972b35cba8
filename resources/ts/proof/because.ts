/** Why an item is asked about first, by the line of its proof sheet that decided. */
export const BECAUSE: Record<string, string> = {
  content: 'only what is expired, binned or past names it',
  code: 'the site’s code is not known',
  mentions: 'something names it in a way that is not read',
  survey: 'pages were not looked at',
  log: 'asked for, or no log was read',
  age: 'it came lately',
};
