import { Wrench } from 'lucide-react';
import { Link } from 'react-router';
import { useFindings, useMay, useSlug } from '@/api/hooks';
import type { Family } from '@/api/types';
import { Button, ButtonLink } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { many, number, sentence } from '@/ui/words';
import { LetStandList } from './LetStand';
import { SurveyStrip } from './SurveyStrip';
import { useMend } from './useMend';

export function RepairsPage() {
  const slug = useSlug();
  const findings = useFindings();
  const { maintain } = useMay();
  const mend = useMend();
  const families = findings.data?.families ?? [];
  const sure = families.reduce((sum, f) => sum + f.sure, 0);
  const all = families.reduce((sum, f) => sum + f.references, 0);
  return (
    <Page
      title="Repairs"
      words={['finding', 'cause', 'cure', 'letStand', 'reference', 'record']}
      aside={
        <>
          {maintain && (
            <ButtonLink tone="quiet" to={`/${slug}/repairs/move`}>
              Move or rename
            </ButtonLink>
          )}
          <ButtonLink tone="quiet" to={`/${slug}/repairs/hosts`}>
            Foreign hosts
          </ButtonLink>
          <ButtonLink tone="quiet" to={`/${slug}/repairs/redirects`}>
            Redirects
          </ButtonLink>
          {maintain && sure > 0 && (
            <Button tone="main" disabled={mend.isPending} onClick={() => mend.mend({})}>
              <Wrench size={16} aria-hidden="true" /> Mend all sure ones
            </Button>
          )}
        </>
      }
    >
      {mend.isError && <Failed error={mend.error} />}
      <SurveyStrip />
      {findings.isPending ? (
        <Loading />
      ) : findings.isError ? (
        <Failed error={findings.error} again={findings.refetch} />
      ) : families.length === 0 ? (
        <Empty title="Nothing to repair">Every reference leads to a file at this address.</Empty>
      ) : (
        <>
          <p className="mb-4 max-w-3xl text-[1.05rem]">
            <b className="figures">{many(all, 'reference')}</b> {all === 1 ? 'does' : 'do'} not lead where{' '}
            {all === 1 ? 'it' : 'they'} should.{' '}
            {sure > 0 ? (
              <>
                For <b className="figures">{number(sure)}</b> the evidence leaves one answer; the rest{' '}
                {all - sure === 1 ? 'waits' : 'wait'} for you.
              </>
            ) : (
              'None has one answer that is sure; open a family and choose.'
            )}{' '}
            <span className="text-soft">Nothing is written before you have read the plan.</span>
          </p>
          <ul className="grid grid-cols-[minmax(0,1fr)] gap-3 md:grid-cols-2 xl:grid-cols-3">
            {families.map((f) => (
              <FamilyCard key={f.cause} family={f} />
            ))}
          </ul>
        </>
      )}
      <LetStandList />
    </Page>
  );
}

function FamilyCard({ family: f }: { family: Family }) {
  const slug = useSlug();
  return (
    <li className="sheet flex flex-col px-4 py-3">
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
        <Link to={`/${slug}/places?cause=${f.cause}`} className="text-accent underline underline-offset-2">
          {many(f.records, 'record')}
        </Link>
        , {many(f.pages, 'public page')}, {many(f.files, 'different address', 'different addresses')}
      </p>
      <SureBar sure={f.sure} of={f.references} />
      {f.sample && (
        <p className="path mt-2 truncate rounded bg-paper px-2 py-1" title={f.sample}>
          {f.sample}
        </p>
      )}
    </li>
  );
}

/** How much of a family mends itself. */
function SureBar({ sure, of }: { sure: number; of: number }) {
  return (
    <div className="mt-auto">
      <div className="h-1.5 overflow-hidden rounded-full bg-line" aria-hidden="true">
        <div
          className="h-full rounded-full bg-live"
          style={{ width: `${(100 * sure) / Math.max(1, of)}%` }}
        />
      </div>
      <p className="figures mt-1 flex justify-between text-[0.88rem]">
        <span className={sure > 0 ? 'font-semibold text-live' : 'text-soft'}>{number(sure)} sure</span>
        <span className={of - sure > 0 ? 'font-semibold' : 'text-soft'}>{number(of - sure)} open</span>
      </p>
    </div>
  );
}
