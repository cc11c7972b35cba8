import { Check, CircleHelp, FileUp, Radar } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { client } from '@/api/client';
import { isUnderWay, useAct, useMay, useSlug, useSurvey } from '@/api/hooks';
import type { Resting, Survey } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { ago, many, number } from '@/ui/words';

const DAY = 86_400_000;

/** What a file is judged by, and what was not looked at yet: without all of it, nothing is safe. */
export function Looked({ resting }: { resting: Resting }) {
  const slug = useSlug();
  const { maintain } = useMay();
  const survey = useSurvey().data?.survey ?? null;
  const begin = useAct<Survey>((site) =>
    client.POST('/sites/{site}/surveys', { params: { path: { site } }, body: {} }),
  );
  const { looked } = resting;
  const days =
    looked.log_from && looked.log_until
      ? Math.floor((Date.parse(looked.log_until) - Date.parse(looked.log_from)) / DAY)
      : 0;
  const running = survey !== null && isUnderWay(survey);
  return (
    <ul
      aria-label="What was looked at"
      className="mb-4 grid grid-cols-[minmax(0,1fr)] gap-x-6 gap-y-1 sm:grid-cols-2 lg:flex lg:flex-wrap lg:justify-between"
    >
      <Source known={looked.read !== null && looked.unread === 0} title="Content">
        {looked.read ? `read ${ago(looked.read)}` : 'never read'}
        {looked.unread > 0 && `, ${many(looked.unread, 'thing')} not readable`}
      </Source>
      <Source known={looked.knows_code && looked.left_code === 0} title="Code on disk" why={looked.why_code}>
        {looked.knows_code
          ? `${many(looked.code_files, 'file')} read`
          : 'the field map does not say where (code:)'}
        {looked.left_code > 0 && `, ${many(looked.left_code, 'thing')} not looked into`}
      </Source>
      <Source known={looked.tables !== null && looked.left === 0} title="Beside the map" why={looked.why}>
        {looked.tables === null
          ? 'never searched'
          : `${many(looked.tables, 'table')} and ${many(looked.files, 'file')} searched`}
        {looked.left > 0 && `, ${many(looked.left, 'thing')} not`}
      </Source>
      <Source
        known={looked.surveyed !== null}
        title="Survey"
        action={
          maintain &&
          looked.surveyed === null &&
          !running && (
            <Button
              disabled={begin.isPending}
              onClick={() => begin.mutate(undefined, { onError: sayProblem })}
            >
              <Radar size={15} aria-hidden="true" /> Survey now
            </Button>
          )
        }
      >
        {running
          ? `under way: ${many(survey.pages, 'page')}, ${many(survey.media, 'file')}`
          : looked.surveyed
            ? `all pages ${ago(looked.surveyed)}`
            : 'never surveyed'}
      </Source>
      <Source
        known={days >= 28}
        title="Access log"
        action={
          maintain &&
          days < 28 && (
            <Link
              to={`/${slug}/resting/logs`}
              className="inline-flex min-h-[24px] items-center gap-1.5 font-semibold text-accent underline underline-offset-2"
            >
              <FileUp size={15} aria-hidden="true" /> Send one
            </Link>
          )
        }
      >
        {looked.log_until === null
          ? looked.log_doubt === null
            ? 'none was read'
            : 'what was read looks like another site’s'
          : `${number(days)} days, until ${ago(looked.log_until)}`}
      </Source>
    </ul>
  );
}

function Source({
  known,
  title,
  why = '',
  action,
  children,
}: {
  known: boolean;
  title: string;
  /** Why something of it was not looked at. */
  why?: string;
  action?: ReactNode;
  children: ReactNode;
}) {
  const Sign = known ? Check : CircleHelp;
  return (
    <li className="flex min-h-9 items-center gap-2">
      <Sign
        size={17}
        aria-label={known ? 'looked at' : 'not known'}
        className={`shrink-0 ${known ? 'text-live' : 'text-waiting'}`}
      />
      <span className="min-w-0 leading-tight">
        <b>{title}</b> <span className="text-soft">{children}</span>
        {!known && why && (
          <span className="path block max-w-64 truncate text-[0.8rem] text-soft" title={why}>
            {why}
          </span>
        )}
      </span>
      {action}
    </li>
  );
}
