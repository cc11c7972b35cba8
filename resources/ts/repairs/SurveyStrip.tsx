import { Radar, Square } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { client } from '@/api/client';
import { isUnderWay, useAct, useMay, useSlug, useSurvey } from '@/api/hooks';
import type { Survey, SurveyView } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Progress } from '@/ui/Progress';
import { ago, many, number } from '@/ui/words';

const STAGES: Record<Survey['stage'], string> = {
  pages: 'Asking the pages',
  media: 'Asking for what they show',
  links: 'Following links that lead to no known page',
  deep: 'Looking at pages in a browser',
  end: 'Working out what it means',
};

/** What visitors get, as the last survey of the public site found it; and the way to another survey. */
export function SurveyStrip() {
  const survey = useSurvey();
  const { maintain } = useMay();
  const [isDeep, setDeep] = useState(false);
  const begin = useAct<Survey>((site) =>
    client.POST('/sites/{site}/surveys', { params: { path: { site } }, body: { deep: isDeep } }),
  );
  const stop = useAct<Survey, number>((site, id) =>
    client.DELETE('/sites/{site}/surveys/{survey}', { params: { path: { site, survey: id } } }),
  );
  const data = survey.data;
  if (!data) return <div className="sheet mb-4 h-[4.6rem]" aria-hidden="true" />;
  const last = data.survey;
  const running = last !== null && isUnderWay(last);
  return (
    <section className="sheet mb-4 flex flex-wrap items-center gap-x-5 gap-y-2 px-4 py-3" aria-label="Survey">
      <div className="min-w-64 flex-1" aria-live="polite">
        {running ? <UnderWay survey={last} expected={data.expected} /> : <Found data={data} />}
      </div>
      {maintain &&
        (running ? (
          <Button disabled={stop.isPending} onClick={() => stop.mutate(last.id, { onError: sayProblem })}>
            <Square size={14} aria-hidden="true" /> Stop
          </Button>
        ) : (
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            {data.browser && (
              <label className="flex min-h-[24px] items-center gap-1.5 text-[0.93rem]">
                <input type="checkbox" checked={isDeep} onChange={(event) => setDeep(event.target.checked)} />
                in a browser, too
              </label>
            )}
            <Button
              disabled={begin.isPending}
              onClick={() => begin.mutate(undefined, { onError: sayProblem })}
            >
              <Radar size={16} aria-hidden="true" />
              {last === null ? 'Survey the public site' : isCutOff(last) ? 'Go on' : 'Survey again'}
            </Button>
          </div>
        ))}
    </section>
  );
}

function isCutOff(survey: Survey): boolean {
  return survey.state === 'stopped' || survey.state === 'halted';
}

function UnderWay({ survey, expected }: { survey: Survey; expected: number }) {
  const share = survey.stage === 'pages' ? survey.pages / Math.max(1, expected) : null;
  return (
    <>
      <p className="mb-1.5 flex justify-between gap-4">
        <b>{STAGES[survey.stage]}</b>
        <span className="figures text-soft">
          {survey.stage === 'pages'
            ? `${number(survey.pages)} of ${many(expected, 'page')}`
            : `${many(survey.media, 'file')}, ${number(survey.failing)} of them not there`}
        </span>
      </p>
      <Progress share={share} label="Survey" />
    </>
  );
}

function Found({ data }: { data: SurveyView }) {
  const slug = useSlug();
  const { survey, figures } = data;
  if (!survey)
    return (
      <p>
        <b>What do visitors get?</b>{' '}
        <span className="text-soft">
          A survey asks every public page and what it shows, politely, and holds it against the map.
        </span>
      </p>
    );
  const parts = [
    { count: figures.failing, words: 'do not load', list: 'failing' },
    { count: figures.unmapped, words: 'shown, not in the map', list: 'unmapped' },
    { count: figures.unseen, words: 'in the map, shown nowhere', list: 'unseen' },
  ];
  return (
    <>
      {survey.problem ? (
        <p className="text-alert">{survey.problem}</p>
      ) : (
        <p>
          <b>{data.sentence}</b>{' '}
          <span className="text-soft">
            {isCutOff(survey) ? 'Stopped' : 'Surveyed'} {ago(survey.finished_at ?? survey.started_at)}.
          </span>
        </p>
      )}
      <p className="figures mt-0.5 flex flex-wrap gap-x-4">
        {parts.map((part) => (
          <Link
            key={part.list}
            to={`/${slug}/repairs/survey/${part.list}`}
            className="inline-block min-h-[24px] text-accent underline underline-offset-2"
          >
            {number(part.count)} {part.words}
          </Link>
        ))}
        {survey.not_asked > 0 && (
          <span className="text-soft">
            {many(survey.not_asked, 'file')} of hosts that nobody allowed to be asked
          </span>
        )}
      </p>
    </>
  );
}
