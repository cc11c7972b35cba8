import { Check, CircleHelp, X } from 'lucide-react';
import { useProof } from '@/api/retire';
import type { ProofLine } from '@/api/types';
import { Failed, Loading } from '@/ui/States';
import { WhatIs } from '@/ui/WhatIs';
import { ago, many } from '@/ui/words';
import { Verdict } from './Verdict';

const SOURCES: Record<ProofLine['source'], string> = {
  content: 'Content',
  code: 'Code on disk',
  mentions: 'Not understood',
  survey: 'Survey',
  log: 'Access log',
  age: 'Age',
  copies: 'Copies',
  redraw: 'Drawn again',
};
const SAYS = {
  for: { words: 'for rest', Sign: Check, tone: 'text-live' },
  against: { words: 'against', Sign: X, tone: 'text-alert' },
  'not-known': { words: 'not known', Sign: CircleHelp, tone: 'text-waiting' },
} as const;

const LINE =
  'grid grid-cols-[7.5rem_7rem_minmax(0,1fr)] items-baseline gap-x-3 py-2 max-sm:grid-cols-[minmax(0,1fr)_auto]';

/** The lines of a proof sheet, one source each. */
export function ProofLines({ lines }: { lines: ProofLine[] }) {
  return (
    <dl className="divide-y divide-line">
      {lines.map((line) => {
        const { words, Sign, tone } = SAYS[line.says];
        return (
          <div key={line.source} className={LINE}>
            <dt className="font-semibold">{SOURCES[line.source]}</dt>
            <dd className={`flex items-center gap-1.5 self-center whitespace-nowrap ${tone}`}>
              <Sign size={15} aria-hidden="true" className="shrink-0" /> {words}
            </dd>
            <dd className="min-w-0 wrap-anywhere max-sm:col-span-2">
              {line.sentence}
              {line.at !== null && line.source !== 'age' && (
                <span className="text-soft"> Looked at {ago(new Date(line.at * 1000).toISOString())}.</span>
              )}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

/** All that speaks for and against an item going to its rest. */
export function ProofSheet({ item, children }: { item: number; children?: React.ReactNode }) {
  const proof = useProof(item);
  if (proof.isPending) return <Loading rows={6} height={38} />;
  if (proof.isError) return <Failed error={proof.error} again={proof.refetch} />;
  const safe = proof.data.files.filter((file) => file.verdict === 'safe').length;
  return (
    <section aria-label="Proof sheet" className="sheet max-w-4xl px-5 py-4">
      <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-2">
        <h2 className="text-[1.15rem] font-bold">Proof sheet</h2>
        <Verdict verdict={proof.data.verdict} className="text-[1.05rem]" />
        <WhatIs about="The proof sheet" words={['proof', 'resting']} />
        <div className="ml-auto">{children}</div>
      </div>
      <ProofLines lines={proof.data.lines} />
      {proof.data.pages.length > 0 && (
        <div className="mt-2 border-t border-line pt-2">
          <h3 className="font-semibold">Pages of other sites that show it or lead to it</h3>
          <ul>
            {proof.data.pages.slice(0, 12).map((page) => (
              <li key={page.page} className="flex justify-between gap-4">
                <span className="path min-w-0 break-all">{page.page}</span>
                <span className="figures whitespace-nowrap text-soft">{many(page.count, 'time')}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {proof.data.verdict === 'needed' && safe > 0 && (
        <p className="mt-2 border-t border-line pt-2 text-soft">
          The item is needed; {many(safe, 'rendition')} of it {safe === 1 ? 'is' : 'are'} not, as far as is
          known.
        </p>
      )}
    </section>
  );
}
