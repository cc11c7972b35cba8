import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useParams } from 'react-router';
import { body, client, setCsrf } from './client';
import type * as T from './types';

/** The short name of the site that the address bar shows. */
export function useSlug(): string {
  return useParams()['site'] ?? '';
}

export function useSession() {
  return useQuery({
    queryKey: ['session'],
    queryFn: async ({ signal }) => {
      const session = await body(client.GET('/session', { signal }));
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
  return useQuery({ queryKey: ['sites'], queryFn: ({ signal }) => body(client.GET('/sites', { signal })) });
}

/** Everything below this key is read again when a reading or a change has landed. */
export function siteQuery<R>(
  slug: string,
  key: readonly unknown[],
  ask: (site: string, signal: AbortSignal) => Promise<{ data?: R }>,
) {
  return {
    queryKey: ['site', slug, ...key] as const,
    queryFn: ({ signal }: { signal: AbortSignal }) => body(ask(slug, signal)),
    enabled: slug !== '',
  };
}

export function useSite() {
  return useQuery(
    siteQuery(useSlug(), ['self'], (site, signal) =>
      client.GET('/sites/{site}', { params: { path: { site } }, signal }),
    ),
  );
}
export function useDesk() {
  return useQuery(
    siteQuery(useSlug(), ['desk'], (site, signal) =>
      client.GET('/sites/{site}/desk', { params: { path: { site } }, signal }),
    ),
  );
}
export function useFacets(filters: MediaFilters) {
  const query = marksOf(filters);
  return useQuery({
    ...siteQuery(useSlug(), ['media', 'facets', query], (site, signal) =>
      client.GET('/sites/{site}/media/facets', {
        params: { path: { site }, query },
        querySerializer: plainly,
        signal,
      }),
    ),
    placeholderData: keepPreviousData,
  });
}
export function useMediaItem(id: string | number) {
  return useQuery(
    siteQuery(useSlug(), ['media', 'item', String(id)], (site, signal) =>
      client.GET('/sites/{site}/media/{mediaItem}', {
        params: { path: { site, mediaItem: Number(id) } },
        signal,
      }),
    ),
  );
}
export function useTrail(id: string | number) {
  return useQuery(
    siteQuery(useSlug(), ['media', 'trail', String(id)], (site, signal) =>
      client.GET('/sites/{site}/media/{mediaItem}/trail', {
        params: { path: { site, mediaItem: Number(id) } },
        signal,
      }),
    ),
  );
}
export function useExcerpt(id: number | null) {
  return useQuery({
    ...siteQuery(useSlug(), ['excerpt', id], (site, signal) =>
      client.GET('/sites/{site}/references/{reference}/excerpt', {
        params: { path: { site, reference: id ?? 0 } },
        signal,
      }),
    ),
    enabled: id !== null,
  });
}
export function useFindings() {
  return useQuery(
    siteQuery(useSlug(), ['findings'], (site, signal) =>
      client.GET('/sites/{site}/findings', { params: { path: { site } }, signal }),
    ),
  );
}
export function usePlan(id: string) {
  return useQuery({
    ...siteQuery(useSlug(), ['plan', id], (site, signal) =>
      client.GET('/sites/{site}/plans/{plan}', { params: { path: { site, plan: Number(id) } }, signal }),
    ),
    // An open plan is looked at now and then: somebody else may apply it.
    refetchInterval: (query) => ({ making: 400, open: 4000 })[query.state.data?.state as string] ?? false,
    refetchOnWindowFocus: true,
  });
}

export const STEPS_PAGE = 50;

/** The steps of a plan, page by page; `state` says in which state the plan is seen, since steps change with it. */
export function useSteps(plan: number, state: string, only?: T.StepState[]) {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'steps', plan, state, only ?? 'all'],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/plans/{plan}/steps', {
          params: {
            path: { site: slug, plan },
            query: { after: pageParam, limit: STEPS_PAGE, ...(only ? { 'state[]': only } : {}) },
          },
          signal,
        }),
      ),
    initialPageParam: -1,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
  });
}

export function isAtWork(change: T.ChangeRow): boolean {
  return change.state === 'applying' || change.state === 'undoing';
}

export function useChanges() {
  return useQuery({
    ...siteQuery(useSlug(), ['changes'], (site, signal) =>
      client.GET('/sites/{site}/changes', { params: { path: { site } }, signal }),
    ),
    refetchInterval: (query) => (query.state.data?.changes.some(isAtWork) ? 800 : false),
  });
}
export function useChange(id: string) {
  return useQuery({
    ...siteQuery(useSlug(), ['change', id], (site, signal) =>
      client.GET('/sites/{site}/changes/{change}', {
        params: { path: { site, change: Number(id) } },
        signal,
      }),
    ),
    // Until it is applied and looked at, there is news every moment; one that was stopped waits for a person.
    refetchInterval: (query) => {
      const change = query.state.data;
      const waits = change?.state === 'stopped' || change?.state === 'undo-stopped';
      // Somebody else may undo it, so what stands is looked at now and then, too.
      return change && !waits && (isAtWork(change) || change.verification === null) ? 600 : 5000;
    },
  });
}

export interface MediaFilters {
  q?: string;
  standing?: string;
  proof?: string;
  because?: string;
  year?: string;
  folder?: string;
  type?: string;
  use?: string;
  trouble?: string;
  copies?: string;
  large?: string;
  left?: string;
  unlisted?: string;
  mentioned?: string;
  like?: string;
  sort?: string;
}

/** The marks as the API takes them: what is not chosen is not sent, and flags are true. */
function marksOf(filters: MediaFilters) {
  const { trouble, copies, large, left, unlisted, mentioned, ...words } = filters;
  return {
    ...Object.fromEntries(Object.entries(words).filter(([name, value]) => value && name !== 'sort')),
    ...(trouble ? { trouble: true } : {}),
    ...(copies ? { copies: true } : {}),
    ...(large ? { large: true } : {}),
    ...(left ? { left: true } : {}),
    ...(unlisted ? { unlisted: true } : {}),
    ...(mentioned ? { mentioned: true } : {}),
  };
}

export const LEDGER_PAGE = 100;

export function mediaPageQuery(slug: string, filters: MediaFilters, page: number) {
  const query = {
    ...marksOf(filters),
    ...(filters.sort ? { sort: filters.sort } : {}),
    offset: page * LEDGER_PAGE,
    limit: LEDGER_PAGE,
  };
  return {
    ...siteQuery(slug, ['media', 'list', query], (site, signal) =>
      client.GET('/sites/{site}/media', {
        params: { path: { site }, query },
        querySerializer: plainly,
        signal,
      }),
    ),
    placeholderData: keepPreviousData,
  };
}

/** Yes and no as the server reads them. */
function plainly(query: Record<string, unknown>): string {
  const params = new URLSearchParams();
  for (const [name, value] of Object.entries(query)) params.set(name, value === true ? '1' : String(value));
  return params.toString();
}

/** Items, files and records at once. The answer says for which text it is; another text's must not be shown for it. */
export function useFind(q: string, limit: number) {
  const slug = useSlug();
  return useQuery({
    ...siteQuery(slug, ['find', q, limit], (site, signal) =>
      client.GET('/sites/{site}/find', { params: { path: { site }, query: { q, limit } }, signal }),
    ),
    enabled: slug !== '' && q.trim() !== '',
  });
}

export interface FitQuestion {
  manner: 'same-address' | 'new-reference';
  to: number | null;
  upload: string | null;
  keep: boolean;
  alt: string;
}
/** What would look different if another picture stood in; asked while somebody chooses. */
export function useFit(item: number, asked: FitQuestion) {
  const query = {
    manner: asked.manner,
    ...(asked.to === null ? {} : { to: asked.to }),
    ...(asked.upload === null ? {} : { upload: asked.upload }),
    ...(asked.keep ? { keep_shape: true } : {}),
    ...(asked.alt ? { alt: asked.alt } : {}),
  };
  return useQuery({
    ...siteQuery(useSlug(), ['fit', item, query], (site, signal) =>
      client.GET('/sites/{site}/media/{mediaItem}/fit', {
        params: { path: { site, mediaItem: item }, query },
        querySerializer: plainly,
        signal,
      }),
    ),
    enabled: asked.to !== null || asked.upload !== null,
    placeholderData: keepPreviousData,
  });
}

export function useUpload(token: string | null) {
  return useQuery({
    ...siteQuery(useSlug(), ['upload', token], (site, signal) =>
      client.GET('/sites/{site}/uploads/{upload}', {
        params: { path: { site, upload: token ?? '' } },
        signal,
      }),
    ),
    enabled: token !== null,
    staleTime: Infinity,
  });
}

export function useMediaList(filters: MediaFilters, limit: number) {
  const query = { ...marksOf(filters), limit };
  return useQuery({
    ...siteQuery(useSlug(), ['media', 'some', query], (site, signal) =>
      client.GET('/sites/{site}/media', {
        params: { path: { site }, query },
        querySerializer: plainly,
        signal,
      }),
    ),
    placeholderData: keepPreviousData,
  });
}

export interface RecordFilters {
  q?: string;
  kind?: string;
  state?: string;
  cause?: string;
  trouble?: string;
  unread?: string;
}
export const RECORDS_PAGE = 40;

/** The marks as the API takes them; those without a value are left away. */
function recordMarks({ trouble, unread, ...words }: RecordFilters) {
  return {
    ...Object.fromEntries(Object.entries(words).filter(([, value]) => value)),
    ...(trouble ? { trouble: true } : {}),
    ...(unread ? { unread: true } : {}),
  };
}
export function useRecordFacets(filters: RecordFilters) {
  const query = recordMarks(filters);
  return useQuery({
    ...siteQuery(useSlug(), ['records', 'facets', query], (site, signal) =>
      client.GET('/sites/{site}/records/facets', {
        params: { path: { site }, query },
        querySerializer: plainly,
        signal,
      }),
    ),
    placeholderData: keepPreviousData,
  });
}
export function useRecords(filters: RecordFilters) {
  const slug = useSlug();
  const query = { ...recordMarks(filters), limit: RECORDS_PAGE };
  return useInfiniteQuery({
    queryKey: ['site', slug, 'records', query],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/records', {
          params: { path: { site: slug }, query: { ...query, offset: pageParam } },
          querySerializer: plainly,
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const seen = pages.reduce((sum, page) => sum + page.records.length, 0);
      return seen < last.total && last.records.length > 0 ? seen : null;
    },
    enabled: slug !== '',
    placeholderData: keepPreviousData,
  });
}
export function useRecord(id: string | number) {
  return useQuery(
    siteQuery(useSlug(), ['record', String(id)], (site, signal) =>
      client.GET('/sites/{site}/records/{record}', {
        params: { path: { site, record: Number(id) } },
        signal,
      }),
    ),
  );
}
/** What somebody decided to let stand. */
export function useLetStand() {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'let-stand'],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/let-stand', {
          params: { path: { site: slug }, query: pageParam === 0 ? {} : { before: pageParam } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
  });
}

/** The raw text of one place that has a finding. */
export function useFindingExcerpt(cause: string, asked: string, leads: boolean) {
  return useQuery(
    siteQuery(useSlug(), ['finding-excerpt', cause, asked, String(leads)], (site, signal) =>
      client.GET('/sites/{site}/findings/{cause}/excerpt', {
        params: { path: { site, cause }, query: { asked, ...(leads && { leads: true }) } },
        querySerializer: plainly,
        signal,
      }),
    ),
  );
}

/** The findings of one family by what they ask for. */
export function useFindingGroups(cause: string) {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'finding-groups', cause],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/findings/{cause}/groups', {
          params: { path: { site: slug, cause }, query: { offset: pageParam, limit: 50 } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
  });
}

/** The last survey of the public site; asked for again and again while one is under way. */
export function useSurvey() {
  const slug = useSlug();
  const queries = useQueryClient();
  return useQuery({
    queryKey: ['site', slug, 'survey'],
    queryFn: async ({ signal }) => {
      const before = queries.getQueryData<T.SurveyView>(['site', slug, 'survey']);
      const data = await body(
        client.GET('/sites/{site}/survey', { params: { path: { site: slug } }, signal }),
      );
      // What a survey learnt becomes findings when it ends.
      if (before?.survey && isUnderWay(before.survey) && data.survey && !isUnderWay(data.survey))
        void queries.invalidateQueries({
          queryKey: ['site', slug],
          predicate: (query) => query.queryKey[2] !== 'survey' || query.queryKey.length > 3,
        });
      return data;
    },
    enabled: slug !== '',
    refetchInterval: (query) => {
      const survey = query.state.data?.survey;
      return survey && isUnderWay(survey) ? 1000 : false;
    },
  });
}

export function isUnderWay(survey: T.Survey): boolean {
  return survey.state === 'waiting' || survey.state === 'running';
}

export type SurveyListName = 'failing' | 'unmapped' | 'unseen';

export function useSurveyList(list: SurveyListName) {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'survey', list],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/survey/{list}', {
          params: { path: { site: slug, list }, query: { offset: pageParam, limit: 50 } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
  });
}

/** The other hosts from which the site takes pictures; asked for again while some are fetched. */
export function useHosts() {
  return useQuery({
    ...siteQuery(useSlug(), ['hosts'], (site, signal) =>
      client.GET('/sites/{site}/hosts', { params: { path: { site } }, signal }),
    ),
    refetchInterval: (query) => {
      const state = query.state.data?.adoption?.state;
      return state === 'waiting' || state === 'running' ? 1000 : false;
    },
  });
}

/** Addresses whose visitors are sent on. */
export function useRedirects(q: string) {
  const slug = useSlug();
  return useInfiniteQuery({
    queryKey: ['site', slug, 'redirects', q],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/sites/{site}/redirects', {
          params: { path: { site: slug }, query: { ...(q && { q }), offset: pageParam, limit: 100 } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: slug !== '',
    placeholderData: keepPreviousData,
  });
}

export function useReadings() {
  const slug = useSlug();
  const queries = useQueryClient();
  return useQuery({
    queryKey: ['readings', slug],
    queryFn: async ({ signal }) => {
      const before = queries.getQueryData<{ readings: T.Reading[] }>(['readings', slug])?.readings[0];
      const data = await body(
        client.GET('/sites/{site}/readings', { params: { path: { site: slug } }, signal }),
      );
      const now = data.readings[0];
      // A reading that has just landed makes everything shown about the site old.
      if (before && now && isOpen(before) && !isOpen(now))
        void queries.invalidateQueries({ queryKey: ['site', slug] });
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
export function useAct<R, V = void>(act: (slug: string, value: V) => Promise<{ data?: R }>) {
  const slug = useSlug();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (value: V) => body(act(slug, value)),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['site', slug] });
      await queries.invalidateQueries({ queryKey: ['readings', slug] });
    },
  });
}

/** Hands over a file that somebody chose; throws a Problem where it is refused. */
export function sendPicture(slug: string, file: File): Promise<T.Upload> {
  const form = new FormData();
  form.set('picture', file);
  return body(
    client.POST('/sites/{site}/uploads', {
      params: { path: { site: slug } },
      body: { picture: '' },
      bodySerializer: () => form,
    }),
  );
}
