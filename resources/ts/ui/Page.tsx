import type { ReactNode } from 'react';
import type { Word } from './glossary';
import { Failed } from './States';
import { useTitle } from './useTitle';
import { WhatIs } from './WhatIs';

/** The frame of a stage: a title line that stays, and below it what scrolls. */
export function Page({
  title,
  aside,
  words,
  children,
  wide = false,
}: {
  title: ReactNode;
  aside?: ReactNode;
  /** The words of this stage that are explained beside its title. */
  words?: readonly Word[];
  children: ReactNode;
  wide?: boolean;
}) {
  useTitle(typeof title === 'string' ? title : null);
  return (
    <main className="flex min-h-0 flex-1 flex-col" id="work">
      <div className="flex min-h-14 flex-wrap items-center gap-x-2 gap-y-1.5 px-6 pt-4 pb-3 max-sm:px-4">
        <div className="flex min-w-0 flex-1 basis-80 items-center gap-2">
          <h1 className="min-w-0 text-[1.45rem] leading-tight font-bold tracking-tight">{title}</h1>
          {words && <WhatIs about={typeof title === 'string' ? title : 'this view'} words={words} />}
        </div>
        <div className="ml-auto flex flex-wrap items-center gap-2">{aside}</div>
      </div>
      <div className={`min-h-0 flex-1 overflow-y-auto px-6 pb-8 max-sm:px-4 ${wide ? '' : 'max-w-[1500px]'}`}>
        {children}
      </div>
    </main>
  );
}

/** A view that could not be shown, in the frame of every other view. */
export function FailedPage({
  title,
  error,
  again,
}: {
  title: string;
  error: unknown;
  again?: () => unknown;
}) {
  return (
    <Page title={title}>
      <Failed error={error} again={again} />
    </Page>
  );
}
