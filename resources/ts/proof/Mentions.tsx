import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import type { Mention, TrailData } from '@/api/types';
import { kindWord, many, number } from '@/ui/words';

/** What names an item in a way that is not read: by what no line of the field map understands. */
export function Mentions({ mentions }: { mentions: TrailData['mentions'] }) {
  if (mentions.total === 0) return null;
  return (
    <section aria-label="Named in a way that is not read" className="sheet mt-4 max-w-4xl px-5 py-3">
      <h2 className="figures text-[1.05rem] font-semibold">
        Named in a way that is not read{' '}
        <span className="font-normal text-soft">{many(mentions.total, 'place')}</span>
      </h2>
      <p className="text-soft">
        A swap or a move leaves these as they are. A line of the field map may be missing.
      </p>
      <ul className="divide-y divide-line">
        {mentions.rows.map((mention) => (
          <Row key={mention.id} mention={mention} />
        ))}
      </ul>
      {mentions.total > mentions.rows.length && (
        <p className="text-soft">And {number(mentions.total - mentions.rows.length)} more.</p>
      )}
    </section>
  );
}

const WHERE: Record<Mention['source'], string> = {
  content: 'record',
  page: 'page',
  code: 'code',
  table: 'table',
  file: 'file',
};

function Row({ mention }: { mention: Mention }) {
  const slug = useSlug();
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-baseline gap-x-4 py-1.5">
      {mention.record_id === null ? (
        <span className="path min-w-0 break-all">{mention.place}</span>
      ) : (
        <span className="min-w-0 wrap-anywhere">
          <Link
            to={`/${slug}/places/${mention.record_id}`}
            className="font-semibold text-accent hover:underline"
          >
            {mention.place}
          </Link>{' '}
          <span className="text-soft">{mention.field}</span>
        </span>
      )}
      <span className="path min-w-0 break-all text-soft">{mention.said}</span>
      <span className="whitespace-nowrap text-soft">
        {mention.kind === null ? WHERE[mention.source] : kindWord(mention.kind)}
        {mention.state !== null && mention.state !== 'live' && `, ${mention.state}`}
      </span>
    </li>
  );
}
