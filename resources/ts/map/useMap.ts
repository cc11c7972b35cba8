import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { body, client } from '@/api/client';
import { siteQuery, useMay, useSlug } from '@/api/hooks';
import type { Coverage, SiteMap } from '@/api/types';

export function useMap() {
  return useQuery(
    siteQuery(useSlug(), ['map'], (site, signal) =>
      client.GET('/sites/{site}/map', { params: { path: { site } }, signal }),
    ),
  );
}

export function useVersion(version: number | null) {
  const slug = useSlug();
  return useQuery({
    queryKey: ['site', slug, 'map', 'version', version],
    queryFn: ({ signal }) =>
      body(
        client.GET('/sites/{site}/map/versions/{version}', {
          params: { path: { site: slug, version: version ?? 0 } },
          signal,
        }),
      ),
    enabled: version !== null,
    staleTime: Infinity,
  });
}

export function useTakeMap() {
  const slug = useSlug();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (asked: { map: string; reason: string | null }) =>
      body(client.PUT('/sites/{site}/map', { params: { path: { site: slug } }, body: asked })),
    onSuccess: (map: SiteMap) => {
      queries.setQueryData(['site', slug, 'map'], map);
      void queries.invalidateQueries({ queryKey: ['site', slug, 'coverage'] });
    },
  });
}

export function useCoverage() {
  const { own } = useMay();
  const query = siteQuery(useSlug(), ['coverage'], (site, signal) =>
    client.GET('/sites/{site}/coverage', { params: { path: { site } }, signal }),
  );
  // Every table is looked at for it; it does not change by coming back to the page.
  return useQuery({ ...query, enabled: query.enabled && own, staleTime: 600_000 });
}

/** What somebody who knows the site says of a place that the map leaves out. */
export function useAnswerPlace() {
  const slug = useSlug();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ question, names }: { question: number; names: boolean }) =>
      body(
        client.POST('/sites/{site}/coverage/{question}', {
          params: { path: { site: slug, question } },
          body: { names },
        }),
      ),
    onSuccess: ({ questions }) => {
      queries.setQueryData<Coverage>(['site', slug, 'coverage'], (old) => old && { ...old, questions });
      // What is safe, and how much of it, may be another now.
      void queries.invalidateQueries({
        queryKey: ['site', slug],
        predicate: (query) => query.queryKey[2] !== 'coverage',
      });
    },
  });
}

export function useUnread() {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'unread'],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/unread', {
          params: { path: { site: slug }, query: pageParam === null ? {} : { after: pageParam } },
          signal,
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
  });
}
