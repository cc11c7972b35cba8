import { Link, Navigate, useParams } from 'react-router';
import { useSlug, useSurveyList, type SurveyListName } from '@/api/hooks';
import { Button } from '@/ui/Button';
import { FailedPage, Page } from '@/ui/Page';
import { Empty, Loading } from '@/ui/States';
import { SurveyRows } from '@/ui/SurveyRows';
import { number } from '@/ui/words';

const LISTS: Record<SurveyListName, { title: string; words: string; none: string }> = {
  failing: {
    title: 'What does not load',
    words:
      'Addresses that pages show and that gave no file when they were last asked, those on most pages first.',
    none: 'Everything that pages show was there when it was last asked for.',
  },
  unmapped: {
    title: 'Shown, not in the map',
    words:
      'Pages show these, and no record that was read names them: the code of the site puts them there, or a column ' +
      'that the field map does not know. Such a file is not idle, whatever the map says.',
    none: 'All that pages show comes from records that were read.',
  },
  unseen: {
    title: 'In the map, shown nowhere',
    words:
      'Live records name these, and no page showed any size of them when it was last asked. They may take turns ' +
      'with others, or stand where the site shows nothing any more.',
    none: 'All that live records name was seen on some page.',
  },
};

/** One list of what the surveys showed. */
export function SurveyPage() {
  const { list = '' } = useParams();
  if (!(list in LISTS)) return <Navigate to="../failing" relative="path" replace />;
  return <List key={list} list={list as SurveyListName} />;
}

function List({ list }: { list: SurveyListName }) {
  const slug = useSlug();
  const pages = useSurveyList(list);
  const say = LISTS[list];
  if (pages.isError) return <FailedPage title={say.title} error={pages.error} again={pages.refetch} />;
  const rows = pages.data?.pages.flatMap((page) => page.rows) ?? [];
  const total = pages.data?.pages[0]?.total ?? 0;
  return (
    <Page title={say.title} wide>
      <nav aria-label="Lists of the survey" className="mb-3 flex flex-wrap gap-x-4">
        {(Object.keys(LISTS) as SurveyListName[]).map((name) => (
          <Link
            key={name}
            to={`/${slug}/repairs/survey/${name}`}
            aria-current={name === list ? 'page' : undefined}
            className={
              name === list
                ? 'min-h-[24px] font-semibold'
                : 'min-h-[24px] text-accent underline underline-offset-2'
            }
          >
            {LISTS[name].title}
          </Link>
        ))}
      </nav>
      <p className="mb-3 max-w-3xl text-soft">{say.words}</p>
      {pages.isPending ? (
        <Loading rows={8} height={56} />
      ) : rows.length === 0 ? (
        <Empty title="None">{say.none}</Empty>
      ) : (
        <SurveyRows rows={rows} />
      )}
      {pages.hasNextPage && (
        <Button
          className="mt-3"
          disabled={pages.isFetchingNextPage}
          onClick={() => void pages.fetchNextPage()}
        >
          Show more ({number(rows.length)} of {number(total)})
        </Button>
      )}
    </Page>
  );
}
