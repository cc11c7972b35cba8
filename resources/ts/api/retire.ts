import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { body, client } from './client';
import { siteQuery, useSlug } from './hooks';

/** What may rest, what rests, what is archived. */
export function useResting() {
  return useQuery(
    siteQuery(useSlug(), ['resting'], (site, signal) =>
      client.GET('/sites/{site}/resting', { params: { path: { site } }, signal }),
    ),
  );
}

export type RestingState = 'all' | 'called' | 'over';

export function useRestingFiles(state: RestingState, q: string) {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'resting', 'files', state, q],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/resting/files', {
          params: { path: { site: slug }, query: { state, ...(q && { q }), offset: pageParam, limit: 50 } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
    placeholderData: keepPreviousData,
  });
}

export function useBags() {
  return useQuery(
    siteQuery(useSlug(), ['resting', 'bags'], (site, signal) =>
      client.GET('/sites/{site}/bags', { params: { path: { site } }, signal }),
    ),
  );
}

export function useBagFiles(bag: string, q: string, upload = '') {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'resting', 'bagged', bag, q, upload],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/bags/files', {
          params: {
            path: { site: slug },
            query: {
              ...(bag && { bag }),
              ...(q && { q }),
              ...(upload && { upload }),
              offset: pageParam,
              limit: 50,
            },
          },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
    placeholderData: keepPreviousData,
  });
}

export function useProof(item: number) {
  return useQuery(
    siteQuery(useSlug(), ['media', 'proof', item], (site, signal) =>
      client.GET('/sites/{site}/media/{mediaItem}/proof', {
        params: { path: { site, mediaItem: item } },
        signal,
      }),
    ),
  );
}

export function useLogs() {
  return useQuery(
    siteQuery(useSlug(), ['resting', 'logs'], (site, signal) =>
      client.GET('/sites/{site}/logs', { params: { path: { site } }, signal }),
    ),
  );
}

/** Where two pictures differ that look alike. */
export function useDifferences(one: number, other: number) {
  return useQuery(
    siteQuery(useSlug(), ['copies', 'differences', one, other], (site, signal) =>
      client.GET('/sites/{site}/copies/differences', {
        params: { path: { site }, query: { one, other } },
        signal,
      }),
    ),
  );
}

export type Likeness = 'bytes' | 'picture' | 'part' | 'alike';

/** Items that show the same picture, group by group. */
export function useCopies(how: Likeness | '') {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'copies', how],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/copies', {
          params: { path: { site: slug }, query: { ...(how && { how }), offset: pageParam, limit: 20 } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
    placeholderData: keepPreviousData,
  });
}

export function useRenditions() {
  return useQuery(
    siteQuery(useSlug(), ['renditions'], (site, signal) =>
      client.GET('/sites/{site}/renditions', { params: { path: { site } }, signal }),
    ),
  );
}

export function useRenditionFiles(width: number, height: number | null) {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'renditions', width, height],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/renditions/files', {
          params: {
            path: { site: slug },
            query: { width, ...(height === null ? {} : { height }), offset: pageParam, limit: 50 },
          },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
  });
}

export function useWeight() {
  return useQuery(
    siteQuery(useSlug(), ['weight'], (site, signal) =>
      client.GET('/sites/{site}/weight', { params: { path: { site } }, signal }),
    ),
  );
}

/** What would be left behind if a record went. */
export function useLeaves(record: string) {
  return useQuery(
    siteQuery(useSlug(), ['record', record, 'leaves'], (site, signal) =>
      client.GET('/sites/{site}/records/{record}/leaves', {
        params: { path: { site, record: Number(record) } },
        signal,
      }),
    ),
  );
}
