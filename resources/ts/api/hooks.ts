import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { api, setCsrf } from './client';
import type * as T from './types';

/** The short name of the site that the address bar shows. */
export function useSlug(): string {
  return useParams()['site'] ?? '';
}

export function useSession() {
  return useQuery({
    queryKey: ['session'],
    queryFn: async ({ signal }) => {
      const session = await api<T.Session>('session', { signal });
      setCsrf(session.csrf);
      return session;
    },
    staleTime: Infinity,
  });
}

export function useMay(): { maintain: boolean; own: boolean } {
  const role = useSession().data?.user?.role;
  return { maintain: role === 'maintainer' || role === 'owner', own: role === 'owner' };
}

export function useSites() {
  return useQuery({
    queryKey: ['sites'],
    queryFn: ({ signal }) => api<{ sites: T.Site[] }>('sites', { signal }),
  });
}

/** Everything below this key is read again when a reading or a change has landed. */
function siteQuery<R>(slug: string, key: readonly unknown[], path: string) {
  return {
    queryKey: ['site', slug, ...key] as const,
    queryFn: ({ signal }: { signal: AbortSignal }) => api<R>(`sites/${slug}${path}`, { signal }),
    enabled: slug !== '',
  };
}

export function useSite() {
  const slug = useSlug();
  return useQuery(siteQuery<T.SiteWithStages>(slug, ['self'], ''));
}
export function useDesk() {
  return useQuery(siteQuery<T.Desk>(useSlug(), ['desk'], '/desk'));
}
export function useFacets() {
  return useQuery(siteQuery<T.Facets>(useSlug(), ['facets'], '/media/facets'));
}
export function useMediaItem(id: string | number) {
  return useQuery(siteQuery<T.MediaItem>(useSlug(), ['media', 'item', String(id)], `/media/${id}`));
}
export function useTrail(id: string | number) {
  return useQuery(siteQuery<T.TrailData>(useSlug(), ['media', 'trail', String(id)], `/media/${id}/trail`));
}
export function useExcerpt(id: number | null) {
  const slug = useSlug();
  return useQuery({
    ...siteQuery<T.Excerpt>(slug, ['excerpt', id], `/references/${id ?? 0}/excerpt`),
    enabled: id !== null,
  });
}
export function usePlaces() {
  return useQuery(siteQuery<{ kinds: T.PlaceKind[] }>(useSlug(), ['places'], '/places'));
}
export function useFindings() {
  return useQuery(siteQuery<{ families: T.Family[] }>(useSlug(), ['findings'], '/findings'));
}
export function useResting() {
  return useQuery(siteQuery<T.Resting>(useSlug(), ['resting'], '/resting'));
}
export function usePlan(id: string) {
  return useQuery(siteQuery<T.Plan>(useSlug(), ['plan', id], `/plans/${id}`));
}
export function useChanges() {
  return useQuery({
    ...siteQuery<{ changes: T.ChangeRow[] }>(useSlug(), ['changes'], '/changes'),
    refetchInterval: (query) =>
      query.state.data?.changes.some((c) => c.state === 'applying' || c.state === 'undoing') ? 800 : false,
  });
}
export function useChange(id: string) {
  return useQuery({
    ...siteQuery<T.Change>(useSlug(), ['change', id], `/changes/${id}`),
    // Until it is applied and looked at, there is news every moment.
    refetchInterval: (query) => {
      const change = query.state.data;
      return change &&
        (change.state === 'applying' || change.state === 'undoing' || change.verification === null)
        ? 600
        : false;
    },
  });
}

export interface MediaFilters {
  q?: string;
  standing?: string;
  folder?: string;
  type?: string;
  use?: string;
  trouble?: string;
  sort?: string;
}
export const LEDGER_PAGE = 100;

export function mediaPageQuery(slug: string, filters: MediaFilters, page: number) {
  const params = new URLSearchParams();
  for (const [name, value] of Object.entries(filters) as [string, string | undefined][])
    if (value) params.set(name, value);
  params.set('offset', String(page * LEDGER_PAGE));
  params.set('limit', String(LEDGER_PAGE));
  return {
    ...siteQuery<{ total: number; items: T.MediaRow[] }>(
      slug,
      ['media', 'list', params.toString()],
      `/media?${params}`,
    ),
    placeholderData: keepPreviousData,
  };
}

export function useFind(q: string) {
  const slug = useSlug();
  return useQuery({
    ...siteQuery<{ total: number; items: T.MediaRow[] }>(
      slug,
      ['media', 'find', q],
      `/media?${new URLSearchParams({ q, limit: '7' })}`,
    ),
    enabled: slug !== '' && q.trim() !== '',
    placeholderData: keepPreviousData,
  });
}

export function useReadings() {
  const slug = useSlug();
  const client = useQueryClient();
  return useQuery({
    queryKey: ['readings', slug],
    queryFn: async ({ signal }) => {
      const before = client.getQueryData<{ readings: T.Reading[] }>(['readings', slug])?.readings[0];
      const data = await api<{ readings: T.Reading[] }>(`sites/${slug}/readings`, { signal });
      const now = data.readings[0];
      // A reading that has just landed makes everything shown about the site old.
      if (before && now && isOpen(before) && !isOpen(now))
        void client.invalidateQueries({ queryKey: ['site', slug] });
      return data;
    },
    enabled: slug !== '',
    refetchInterval: (query) => {
      const first = query.state.data?.readings[0];
      return first && isOpen(first) ? 500 : 15_000;
    },
  });
}

export function isOpen(reading: T.Reading): boolean {
  return reading.state === 'queued' || reading.state === 'reading' || reading.state === 'landing';
}

/** A request that changes something on the site; what is shown about the site is read again after it. */
export function useAct<R, V = void>(act: (slug: string, value: V) => Promise<R>) {
  const slug = useSlug();
  const client = useQueryClient();
  return useMutation({
    mutationFn: (value: V) => act(slug, value),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['site', slug] });
      await client.invalidateQueries({ queryKey: ['readings', slug] });
    },
  });
}
