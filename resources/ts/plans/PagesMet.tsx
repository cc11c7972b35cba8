import { many, number } from '@/ui/words';

interface Props {
  count: number;
  pages: { id: number; title: string; address: string }[];
}

/** The public pages that a plan reaches: how many, and the first of them by name. */
export function PagesMet({ count, pages }: Props) {
  return (
    <>
      <h2 className="font-semibold">Met on {many(count, 'public page')}</h2>
      <p className="mb-2 text-soft">
        A page cache may keep the old page for a while; after applying, each is looked at.
      </p>
      <ul className="max-h-72 overflow-y-auto text-[0.93rem]">
        {pages.map((page) => (
          <li key={page.id} className="truncate py-0.5">
            {page.title} <span className="path text-soft">/{page.address}</span>
          </li>
        ))}
        {count > pages.length && (
          <li className="py-0.5 text-soft">and {number(count - pages.length)} more</li>
        )}
      </ul>
    </>
  );
}
