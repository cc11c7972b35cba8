import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import { Button } from '@/ui/Button';
import { Empty, Failed, Loading } from '@/ui/States';
import { kindWord } from '@/ui/words';
import { MapFrame } from './MapFrame';
import { useUnread } from './useMap';

/** What the last reading could not read, each with its reason. */
export function UnreadPage() {
  const slug = useSlug();
  const unread = useUnread();
  const records = unread.data?.pages.flatMap((page) => page.records) ?? [];
  const files = unread.data?.pages[0]?.files ?? [];
  return (
    <MapFrame>
      {unread.isError ? (
        <Failed error={unread.error} again={unread.refetch} />
      ) : unread.isPending ? (
        <Loading rows={6} height={56} />
      ) : records.length + files.length === 0 ? (
        <Empty title="Everything could be read">
          Nothing that the map names was damaged or in another notation.
        </Empty>
      ) : (
        <div className="max-w-5xl">
          <p className="mb-3">
            What stands here may hold pictures that Ylema does not see.{' '}
            <span className="text-soft">Until it is mended, none of them is called idle for sure.</span>
          </p>
          {records.length > 0 && (
            <ul className="sheet divide-y divide-line" aria-label="Records">
              {records.map((record) => (
                <li key={record.id} className="px-4 py-2.5">
                  <Link
                    to={`/${slug}/places/${record.id}`}
                    className="font-semibold text-accent hover:underline"
                  >
                    {record.title || 'untitled'}
                  </Link>{' '}
                  <span className="text-soft">{kindWord(record.kind)}</span>
                  {record.problems.map((problem, i) => (
                    <p key={i} className="text-soft">
                      <span className="path">{problem.field}</span>
                      {problem.line !== null && `, line ${problem.line}`}: {problem.message}
                    </p>
                  ))}
                </li>
              ))}
            </ul>
          )}
          {unread.hasNextPage && (
            <Button
              className="mt-3"
              disabled={unread.isFetchingNextPage}
              onClick={() => void unread.fetchNextPage()}
            >
              More records
            </Button>
          )}
          {files.length > 0 && (
            <section aria-label="Files" className="mt-5">
              <h2 className="mb-2 font-semibold">Among the files</h2>
              <ul className="sheet divide-y divide-line">
                {files.map((file) => (
                  <li key={file.path} className="px-4 py-2.5">
                    <span className="path break-words">{file.path}</span>
                    <span className="text-soft">: {file.why}</span>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      )}
    </MapFrame>
  );
}
