import { TriangleAlert } from 'lucide-react';
import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import type { RecordLine, RecordView } from '@/api/types';
import { fitFor, Picture } from '@/ui/Picture';
import { box, fileName, kindWord, many, number, roleWord } from '@/ui/words';

type Shown = RecordView['shows'][number];

/** What a record shows, by the carriers through which it does, and what is wrong with it. */
export function Shows({ record }: { record: RecordView }) {
  const findings = record.shows.filter((s) => s.finding);
  const groups = new Map<string, { via: RecordLine[]; shows: Shown[] }>();
  for (const entry of record.shows) {
    const key = entry.via.map((v) => v.id).join('>');
    const group = groups.get(key);
    if (group) group.shows.push(entry);
    else groups.set(key, { via: entry.via, shows: [entry] });
  }
  const items = new Set(record.shows.map((s) => s.item?.id).filter((id) => id !== undefined)).size;
  return (
    <>
      <p className="figures text-[1.05rem]">
        Shows <b>{many(items, 'media item')}</b> in {many(record.shows.length, 'placement')}
        {groups.size > 1 && `, through ${many(groups.size - (groups.has('') ? 1 : 0), 'carrier')}`}.{' '}
        {findings.length > 0 ? (
          <b className="text-alert">{many(findings.length, 'finding')}.</b>
        ) : (
          <span className="text-soft">Nothing is wrong with them.</span>
        )}
      </p>
      {findings.length > 0 && <Findings findings={findings} />}
      {record.problems.map((p, i) => (
        <p key={i} className="mt-3 rounded-md border border-waiting/50 px-3 py-2">
          The field “{p.field}” could not be read in full
          {p.line !== undefined && `, from line ${number(p.line)}`}: {p.message}
        </p>
      ))}
      {[...groups.values()].map((group) => (
        <section key={group.via.map((v) => v.id).join('>')} className="mt-5" aria-label={viaWords(group.via)}>
          <h2 className="mb-1 font-semibold">
            <Via via={group.via} />
          </h2>
          <ul className="divide-y divide-line border-y border-line">
            {group.shows.map((entry) => (
              <Placed key={`${entry.id}-${entry.via.length}`} entry={entry} />
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

function viaWords(via: RecordLine[]): string {
  return via.length === 0 ? 'In its own fields' : `Through ${via.map((v) => v.title).join(', ')}`;
}

function Via({ via }: { via: RecordLine[] }) {
  const slug = useSlug();
  if (via.length === 0) return <>In its own fields</>;
  return (
    <>
      Through{' '}
      {via.map((v, i) => (
        <span key={v.id}>
          {i > 0 && <span className="text-soft"> → </span>}
          <span className="font-normal text-soft">{kindWord(v.kind)} </span>
          <Link to={`/${slug}/places/${v.id}`} className="text-accent underline underline-offset-2">
            {v.title}
          </Link>
        </span>
      ))}
    </>
  );
}

function Findings({ findings }: { findings: Shown[] }) {
  return (
    <section
      aria-label="Findings"
      className="mt-3 rounded-md border border-alert/40 bg-alert-tint/60 px-4 py-3"
    >
      <h2 className="mb-1 flex items-center gap-2 font-semibold text-alert">
        <TriangleAlert size={16} aria-hidden="true" /> What is wrong here, and why
      </h2>
      <ul className="flex flex-col gap-1.5">
        {findings.map((f) => (
          <li key={`${f.id}-${f.via.length}`}>
            <p>{f.sentence}</p>
            <p className="text-[0.9rem] text-soft">
              {roleWord(f.role)}, line {number(f.line)} of “{f.field}”
              {f.via.length > 0 && ` of ${f.via[f.via.length - 1]?.title ?? ''}`}:{' '}
              <span className="path break-all">{f.value}</span>
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Placed({ entry }: { entry: Shown }) {
  const slug = useSlug();
  const item = entry.item;
  return (
    <li className="flex items-center gap-4 py-2 max-sm:flex-wrap">
      <Picture
        fileId={item?.file_id ?? null}
        sha={item?.sha256 ?? null}
        mime={item?.mime ?? null}
        alt=""
        className="h-12 w-16 shrink-0 rounded border border-line"
        fit={fitFor(item?.width ?? null, item?.height ?? null)}
      />
      <div className="min-w-0 flex-1">
        {item ? (
          <Link
            to={`/${slug}/media/${item.id}`}
            className="block truncate font-semibold hover:text-accent hover:underline"
          >
            {item.title || fileName(item.path)}
          </Link>
        ) : (
          <span className="block font-semibold text-alert">No item of this site</span>
        )}
        <p className="truncate text-[0.9rem] text-soft">
          {entry.words === null
            ? 'No alt text here'
            : entry.words === ''
              ? 'Empty alt text'
              : `Alt text here: “${entry.words}”`}
        </p>
      </div>
      <div className="w-56 shrink-0 text-right text-[0.9rem] max-sm:pl-20 max-sm:text-left">
        <p>{roleWord(entry.role)}</p>
        <p className="figures text-soft">
          {box(entry.box)} {entry.broken && <b className="text-alert">broken</b>}
        </p>
      </div>
    </li>
  );
}
