/** What a person may ask of a change, by its number. */
export const acts = (site: string, change: number) => ({ params: { path: { site, change } } });
