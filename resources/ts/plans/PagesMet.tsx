import { PublicLink } from '@/ui/PublicLink';
import { many, number } from '@/ui/words';

interface Props {
  count: number;
  pages: { id: number; title: string; address: string }[];
}

/** As many pages as a verification looks at; more than that are judged by a sample. */
const LOOKED_AT = 60;

/** The public pages that a plan reaches: how many, and the first of them by name. */
export function PagesMet({ count, pages }: Props) {
  return (
    <>
      <h2 className="font-semibold">Met on {many(count, 'public page')}</h2>
      <p className="mb-2 text-soft">
        {count === 0
          ? 'No visitor meets it, so there is nothing to look at afterwards.'
          : count <= LOOKED_AT
            ? 'After applying, each is looked at as a visitor would; a page cache may keep the old one for a while.'
            : `After applying, ${LOOKED_AT} of them are looked at: of every kind of page alike many. The rest can be asked for then.`}
      </p>
      <ul className="max-h-72 overflow-y-auto text-[0.93rem]" tabIndex={0} aria-label="Public pages">
        {pages.map((page) => (
          <li key={page.id} className="flex min-w-0 items-baseline gap-2 py-0.5">
            <span className="min-w-0 shrink truncate">{page.title}</span>
            <PublicLink address={page.address} />
          </li>
        ))}
        {count > pages.length && (
          <li className="py-0.5 text-soft">and {number(count - pages.length)} more</li>
        )}
      </ul>
    </>
  );
}
