import { Link } from 'react-router';
import { useFindings, useSlug } from '@/api/hooks';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { many, number, sentence } from '@/ui/words';

export function RepairsPage() {
  const findings = useFindings();
  const slug = useSlug();
  return (
    <Page title="Repairs">
      <p className="mb-4 max-w-2xl text-soft">
        References that do not lead where they should, gathered by cause. Cures for whole families come to
        this stage; until then, a swap of the item also mends the references that it changes.
      </p>
      {findings.isPending ? (
        <Loading />
      ) : findings.isError ? (
        <Failed error={findings.error} again={findings.refetch} />
      ) : findings.data.families.length === 0 ? (
        <Empty title="Nothing to repair">Every reference leads to a file at this address.</Empty>
      ) : (
        <ul className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
          {findings.data.families.map((f) => (
            <li key={f.cause} className="sheet flex flex-col px-4 py-3">
              <div className="flex items-baseline justify-between gap-4">
                <h2 className="text-[1.1rem] font-semibold">
                  <Link to={`/${slug}/repairs/${f.cause}`} className="hover:text-accent hover:underline">
                    {f.title}
                  </Link>
                </h2>
                <span className="figures text-[1.3rem] font-bold" title={many(f.references, 'reference')}>
                  {number(f.references)}
                </span>
              </div>
              <p className="leading-snug">{sentence(f.sentence)}</p>
              <p className="figures mb-2 text-[0.9rem] text-soft">
                <Link
                  to={`/${slug}/places?cause=${f.cause}`}
                  className="text-accent underline underline-offset-2"
                >
                  {many(f.records, 'record')}
                </Link>
                , {many(f.pages, 'public page')}, {many(f.files, 'different address', 'different addresses')}
              </p>
              {f.sample && (
                <p className="path mt-auto truncate rounded bg-paper px-2 py-1" title={f.sample}>
                  {f.sample}
                </p>
              )}
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
