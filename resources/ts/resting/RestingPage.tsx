import { useResting, useSlug } from '@/api/hooks';
import { ButtonLink } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Failed, Loading } from '@/ui/States';
import { many, number, weight } from '@/ui/words';

export function RestingPage() {
  const resting = useResting();
  const slug = useSlug();
  return (
    <Page title="Resting" words={['resting', 'standing', 'rendition']}>
      <p className="mb-4 max-w-2xl text-soft">
        Files that nothing uses first rest here, out of the public tree but whole, and go only into an
        archive. Laying files to rest comes to this stage; what is idle can be looked at now.
      </p>
      {resting.isPending ? (
        <Loading rows={3} />
      ) : resting.isError ? (
        <Failed error={resting.error} again={resting.refetch} />
      ) : (
        <div className="grid gap-4 md:grid-cols-3">
          <Lane
            title="Idle"
            count={resting.data.idle.items}
            more={`${many(resting.data.idle.files, 'file')}, ${weight(resting.data.idle.bytes)}`}
          >
            <ButtonLink to={`/${slug}/media?standing=idle`}>Look at them</ButtonLink>
          </Lane>
          <Lane title="Resting" count={resting.data.resting} more="No file rests yet." />
          <Lane title="Gone to archive" count={resting.data.archived} more="Nothing was archived yet." />
        </div>
      )}
    </Page>
  );
}

function Lane({
  title,
  count,
  more,
  children,
}: {
  title: string;
  count: number;
  more: string;
  children?: React.ReactNode;
}) {
  return (
    <section className="sheet flex min-h-56 flex-col gap-1 p-5">
      <h2 className="font-semibold">{title}</h2>
      <p className="figures text-[2rem] leading-none font-bold">{number(count)}</p>
      <p className="figures text-soft">{more}</p>
      {children && <div className="mt-auto">{children}</div>}
    </section>
  );
}
