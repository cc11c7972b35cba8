import { Printer } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useSite } from '@/api/hooks';
import { Button } from './Button';
import type { Word } from './glossary';
import { Page } from './Page';
import { when } from './words';

/** A view that is made to be printed as well: the frame of the application stays on the screen. */
export function Report({
  title,
  words,
  back,
  about,
  children,
}: {
  title: string;
  words: readonly Word[];
  /** Where it was opened, and what is there. */
  back: { to: string; label: string };
  /** What it says in one sentence. */
  about: ReactNode;
  children: ReactNode;
}) {
  const site = useSite().data;
  return (
    <Page
      title={title}
      words={words}
      aside={
        <Button onClick={() => void print()} className="print:hidden">
          <Printer size={15} aria-hidden="true" /> Print
        </Button>
      }
    >
      <p className="mb-4 max-w-3xl">
        <Link to={back.to} className="font-semibold text-accent underline underline-offset-2 print:hidden">
          {back.label}
        </Link>{' '}
        <span className="figures text-soft">
          {about}
          {site?.read_at && (
            <span className="hidden print:inline">
              {' '}
              {site.name}, {site.address}, as it was read {when(site.read_at)}.
            </span>
          )}
        </span>
      </p>
      {children}
    </Page>
  );
}

/** From a thing to its report. */
export function ReportLink() {
  return (
    <Link
      to="report"
      className="inline-block min-h-[24px] font-semibold text-accent underline underline-offset-2"
    >
      A report for printing
    </Link>
  );
}

/** Pictures further down are fetched when somebody scrolls to them, which no printer does. */
async function print() {
  const pictures = [...document.images].filter((picture) => picture.loading === 'lazy');
  for (const picture of pictures) picture.loading = 'eager';
  await Promise.allSettled(pictures.map((picture) => picture.decode()));
  window.print();
}
