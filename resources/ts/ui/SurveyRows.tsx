import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import type { SurveyRow } from '@/api/types';
import { Picture } from './Picture';
import { many, roleWord } from './words';

/** Files that a survey speaks of, each with the pages where it was met. */
export function SurveyRows({ rows }: { rows: readonly SurveyRow[] }) {
  return (
    <ul className="sheet divide-y divide-line">
      {rows.map((row) => (
        <Row key={row.url} row={row} />
      ))}
    </ul>
  );
}

function Row({ row }: { row: SurveyRow }) {
  const slug = useSlug();
  return (
    <li className="flex items-center gap-4 px-4 py-2 max-md:flex-wrap">
      <Picture
        fileId={row.file_id ?? null}
        sha={row.sha256 ?? null}
        mime={row.mime ?? null}
        alt=""
        className="h-10 w-14 shrink-0 rounded border border-line"
      />
      <div className="min-w-0 flex-1">
        <p className="path break-all">
          {row.item ? (
            <Link to={`/${slug}/media/${row.item}`} className="text-accent underline underline-offset-2">
              {row.path ?? row.url}
            </Link>
          ) : (
            row.url
          )}
        </p>
        <p className="text-[0.9rem] text-soft">
          {row.why && <b className="mr-2 font-semibold text-alert">{row.why}</b>}
          {roleWord(row.role)}
        </p>
      </div>
      <Link
        to={`/${slug}/places/${row.record}`}
        className="figures min-h-[24px] shrink-0 text-accent underline underline-offset-2"
        title={row.title}
      >
        {many(row.pages, 'page')}
      </Link>
    </li>
  );
}
