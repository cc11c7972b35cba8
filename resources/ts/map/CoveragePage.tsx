import { Link, useNavigate } from 'react-router';
import { useMay, useSlug, useSurvey, useSurveyList } from '@/api/hooks';
import type { Coverage, Gap, MentionGroup, PlaceQuestion } from '@/api/types';
import { Button } from '@/ui/Button';
import { Empty, Failed, Loading } from '@/ui/States';
import { SurveyRows } from '@/ui/SurveyRows';
import { many, number } from '@/ui/words';
import { addGap } from './addGap';
import { MapFrame } from './MapFrame';
import { useAnswerPlace, useCoverage, useMap } from './useMap';

/** Files of a survey that are listed here; the survey has them all. */
const FIRST = 20;

/** What names media and no line of the map reads; and what pages were seen to show that it does not explain. */
export function CoveragePage() {
  const { own } = useMay();
  const coverage = useCoverage();
  const map = useMap();
  if (!own)
    return (
      <MapFrame>
        <Empty title="An owner looks after the map">Ask one of them what it leaves out.</Empty>
      </MapFrame>
    );
  return (
    <MapFrame>
      {coverage.isError ? (
        <Failed error={coverage.error} again={coverage.refetch} />
      ) : coverage.isPending || map.isPending ? (
        <>
          <p role="status" className="mb-3 text-soft">
            Looking at every table for pictures that no line reads…
          </p>
          <Loading rows={4} height={64} />
        </>
      ) : (
        <div className="h-full max-w-5xl overflow-y-auto pb-8">
          <Searched coverage={coverage.data} />
          {coverage.data.gaps.length === 0 ? (
            <Empty title="No column or file was found that a line could be added for">
              What is named in other ways stands below. Names that are put together while code runs stand
              nowhere: only a survey and access logs see those.
            </Empty>
          ) : (
            <>
              <p className="mb-3">
                {many(coverage.data.total, 'place')} where media are named and no line reads them, most files
                first.{' '}
                <span className="text-soft">
                  A file that only they name would look as if nothing used it.
                </span>
              </p>
              <ul className="sheet divide-y divide-line">
                {coverage.data.gaps.map((gap) => (
                  <Row
                    key={`${gap.table}.${gap.column}.${gap.name}.${gap.path}`}
                    gap={gap}
                    added={map.data ? addGap(map.data.map, gap) : null}
                  />
                ))}
              </ul>
            </>
          )}
          <Questions questions={coverage.data.questions} />
          <Named mentions={coverage.data.mentions} />
          <NotSearched left={coverage.data.not_searched} />
          <Unexplained />
        </div>
      )}
    </MapFrame>
  );
}

function Searched({ coverage }: { coverage: Coverage }) {
  return (
    <p className="figures mb-3 text-soft">
      {coverage.searched === null
        ? 'What the map leaves out was never searched; read the site again.'
        : 'When the site was read last, ' +
          `${many(coverage.searched.tables, 'table')} and ${many(coverage.searched.files, 'file')} ` +
          'beside the map were searched for names of its files.'}
    </p>
  );
}

/** What only somebody who knows the site can tell. */
function Questions({ questions }: { questions: PlaceQuestion[] }) {
  const answer = useAnswerPlace();
  if (questions.length === 0) return null;
  return (
    <section className="mt-8" aria-label="Only you can tell">
      <h2 className="figures mb-1 text-[1.15rem] font-semibold">
        Only you can tell <span className="font-normal text-soft">{number(questions.length)}</span>
      </h2>
      <p className="mb-2 text-soft">
        Until you say otherwise, what such a place may name is not called safe to rest.
      </p>
      {answer.isError && <Failed error={answer.error} />}
      <ul className="sheet divide-y divide-line">
        {questions.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-4 gap-y-2 px-4 py-3">
            <div className="min-w-0 flex-1 basis-80">
              <p className="path font-semibold break-words">{one.place}</p>
              <p className="text-soft">{one.asks}</p>
            </div>
            <div role="group" aria-label={one.place} className="flex gap-2">
              {ANSWERS[one.kind].map(([names, says]) => (
                <Button
                  key={says}
                  aria-pressed={one.answer === names}
                  disabled={answer.isPending}
                  onClick={() => answer.mutate({ question: one.id, names })}
                >
                  {one.answer === names ? `✓ ${says}` : says}
                </Button>
              ))}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

const ANSWERS: Record<PlaceQuestion['kind'], [boolean, string][]> = {
  keys: [
    [true, 'Ids of media'],
    [false, 'Other numbers'],
  ],
  list: [
    [true, 'It shows them'],
    [false, 'It only lists them'],
  ],
};

/** Where files are named in ways that are not read. */
function Named({ mentions }: { mentions: Coverage['mentions'] }) {
  if (mentions.total === 0) return null;
  return (
    <section className="mt-8" aria-label="Named in a way that is not read">
      <h2 className="figures mb-2 text-[1.15rem] font-semibold">
        Named in a way that is not read{' '}
        <span className="font-normal text-soft">{many(mentions.total, 'place')}</span>
      </h2>
      <ul className="sheet divide-y divide-line">
        {mentions.rows.map((group) => (
          <li
            key={`${group.source} ${group.place}`}
            className="flex flex-wrap items-baseline gap-x-4 px-4 py-2"
          >
            <span className="path min-w-0 flex-1 basis-80 break-all">{group.place}</span>
            <span className="text-soft">{SOURCES[group.source]}</span>
            <span className="w-28 text-right tabular-nums">{many(group.items, 'item')}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const SOURCES: Record<MentionGroup['source'], string> = {
  content: 'a field that is read otherwise',
  page: 'a page as visitors get it',
  code: 'the site’s own code',
  table: 'a column that no line reads',
  file: 'a file that no line reads',
};

function NotSearched({ left }: { left: Coverage['not_searched'] }) {
  if (left.length === 0) return null;
  return (
    <section className="mt-8" aria-label="Not looked into">
      <h2 className="figures mb-1 text-[1.15rem] font-semibold">
        Not looked into <span className="font-normal text-soft">{number(left.length)}</span>
      </h2>
      <p className="mb-2 text-soft">While there is any, no file is called safe to rest.</p>
      <ul className="sheet divide-y divide-line">
        {left.map((one) => (
          <li key={`${one.place} ${one.why}`} className="px-4 py-2">
            <span className="path font-semibold break-all">{one.place}</span>
            <p className="text-soft">{one.why}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** After a survey: files that pages show and no record that was read names. */
function Unexplained() {
  const slug = useSlug();
  const survey = useSurvey();
  const list = useSurveyList('unmapped');
  const rows = list.data?.pages[0]?.rows ?? [];
  const total = list.data?.pages[0]?.total ?? 0;
  return (
    <section className="mt-8" aria-label="Shown on pages and not explained">
      <h2 className="figures mb-1 text-[1.15rem] font-semibold">
        Shown on pages, and named by no record{' '}
        {total > 0 && <span className="font-normal text-soft">{number(total)}</span>}
      </h2>
      {survey.isError || list.isError ? (
        <Failed error={survey.error ?? list.error} again={survey.isError ? survey.refetch : list.refetch} />
      ) : survey.isPending || list.isPending ? (
        <Loading rows={3} height={56} />
      ) : survey.data.figures.pages === 0 ? (
        <p className="text-soft">
          No page was asked for yet. A{' '}
          <Link to={`/${slug}/repairs`} className="font-semibold text-accent underline underline-offset-2">
            survey
          </Link>{' '}
          looks at the public pages and says here what they show that the map does not explain.
        </p>
      ) : total === 0 ? (
        <p className="text-soft">All that pages were seen to show comes from records that were read.</p>
      ) : (
        <>
          <p className="mb-3 text-soft">
            The site’s own code puts these there, or a place that the map does not read.
          </p>
          <SurveyRows rows={rows.slice(0, FIRST)} />
          {total > FIRST && (
            <p className="mt-2">
              <Link
                to={`/${slug}/repairs/survey/unmapped`}
                className="font-semibold text-accent underline underline-offset-2"
              >
                All {number(total)}
              </Link>
            </p>
          )}
        </>
      )}
    </section>
  );
}

function Row({ gap, added }: { gap: Gap; added: string | null }) {
  const slug = useSlug();
  const navigate = useNavigate();
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-3">
      <div className="min-w-0 flex-1 basis-80">
        <p className="path font-semibold break-words">
          {gap.table === '' ? gap.column : `${gap.table}.${gap.column}`}
          {gap.name !== '' && <span className="font-normal text-soft">, rows called {gap.name}</span>}
          {gap.path !== '' && <span className="font-normal text-soft">, at {gap.path}</span>}
        </p>
        <p className="text-soft">{gap.why}</p>
        {gap.passing !== null && <p className="text-soft">Most likely no content: {gap.passing}.</p>}
      </div>
      <span className="w-28 text-right tabular-nums">{many(gap.files, 'file')}</span>
      <span className="w-40 text-right">
        {added === null ? (
          <span className="text-soft" title="What ties it to a page has to be said by somebody who knows it">
            needs a kind of its own
          </span>
        ) : (
          <Button onClick={() => void navigate(`/${slug}/map`, { state: { map: added } })}>
            {gap.kind === '' ? 'Add to the map' : `Add ${gap.kind}`}
          </Button>
        )}
      </span>
    </li>
  );
}
