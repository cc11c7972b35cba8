export type StandingWord = 'live' | 'waiting' | 'fading' | 'idle';
export type RoleWord = 'viewer' | 'maintainer' | 'owner';

export interface User {
  name: string;
  email: string;
  role: RoleWord;
}
export interface Session {
  user: User | null;
  csrf: string;
  demo: { password: string; accounts: User[] } | null;
}
export interface Site {
  slug: string;
  name: string;
  address: string;
  former: string[];
  aliases: string[];
  reach_at: Record<string, string>;
  read_at: string | null;
}
export interface SiteWithStages extends Site {
  stages: Record<'media' | 'places' | 'repairs' | 'resting' | 'changes', number>;
}

export interface ReadingProblem {
  kind: string;
  key: string;
  title: string;
  field: string;
  message: string;
}
export interface Reading {
  id: number;
  state: 'queued' | 'reading' | 'landing' | 'done' | 'stopped' | 'failed';
  stage: string;
  problem: string | null;
  totals: Partial<
    Record<
      'records' | 'refs' | 'changed' | 'files' | 'changed_files' | 'problems' | 'chunks' | 'done',
      number
    >
  >;
  problems: ReadingProblem[];
  started_at: string;
  finished_at: string | null;
}

export interface MediaRow {
  id: number;
  path: string;
  title: string;
  alt: string;
  standing: StandingWord;
  reach: number;
  uses: number;
  broken: number;
  use_kinds: Record<string, number>;
  file_id: number | null;
  width: number | null;
  height: number | null;
  mime: string | null;
  weight: number | null;
  file_count: number;
  sha256: string | null;
}
export interface MediaFile {
  id: number;
  path: string;
  width: number | null;
  height: number | null;
  weight: number;
  is_original: boolean;
  sha256: string;
}
export interface MediaItem extends Omit<MediaRow, 'file_count'> {
  source_id: string | null;
  caption: string;
  credit: string;
  tags: string[];
  files: MediaFile[];
  twins: { media_item_id: number; path: string }[];
}
export interface Facet {
  value: string;
  count: number;
}
export interface Facets {
  standing: Facet[];
  folder: Facet[];
  type: Facet[];
  use: Facet[];
  trouble: number;
}

export interface TrailReference {
  id: number;
  record_id: number;
  field: string;
  role: string;
  fetch: string;
  names: 'address' | 'media-item';
  value: string;
  line: number;
  file_id: number | null;
  outcome: string | null;
  sentence: string | null;
  broken: boolean;
  box: string | null;
  words: string | null;
}
export interface TrailRecord {
  id: number;
  kind: string;
  key: string;
  title: string;
  address: string | null;
  is_page: boolean;
  everywhere: boolean;
  state: StandingWord;
  meets: StandingWord;
  facts: Record<string, string | number | null>;
}
export interface TrailFile {
  id: number;
  path: string;
  width: number | null;
  height: number | null;
  size: number;
  is_original: boolean;
  sha256: string;
}
export interface TrailData {
  files: TrailFile[];
  references: TrailReference[];
  records: TrailRecord[];
  carries: { from: number; to: number; role: string }[];
  pages: number[];
  reach: number;
  cut: boolean;
}
export interface Excerpt {
  id: number;
  field: string;
  value: string;
  role: string;
  fetch: string;
  layers: string;
  line: number;
  column: number;
  start: number;
  length: number;
  context: {
    element?: string | null;
    attributes?: Record<string, string>;
    link?: string;
    caption?: string;
    heading?: string;
    path?: string;
    within?: string;
    descriptor?: string;
  };
  outcome: string | null;
  sentence: string | null;
  record: { id: number; kind: string; key: string; title: string };
  changed: boolean;
  lead: string;
  marked: string;
  tail: string;
  cut_before: boolean;
  cut_after: boolean;
}

export interface PlanEdit {
  start: number;
  before: string;
  after: string;
  role: string;
  line: number | null;
  lead: string;
  tail: string;
}
export interface WriteDetail {
  fields?: Record<string, { before: string; after: string; edits: PlanEdit[] }>;
  path?: string;
  weight_before?: number | null;
  weight_after?: number;
  width?: number | null;
  height?: number | null;
  media?: { path: string; title: string };
}
export interface Write {
  id: number;
  target: 'record' | 'file' | 'media-row';
  kind: string | null;
  key: string | null;
  title: string;
  new: boolean;
  detail: WriteDetail;
  problem?: string | null;
  state?: 'pending' | 'written' | 'refused' | 'undone' | 'kept';
  message?: string | null;
}
export interface PlanSummary {
  manner: 'same-address' | 'new-reference';
  references: number;
  skipped?: number;
  records: number;
  files: number;
  pages: number;
  page_list: { id: number; title: string; address: string }[];
  from: number;
  to: number | null;
  cropped?: number;
}
export interface Plan {
  id: number;
  state: 'open' | 'applied' | 'dropped';
  title: string;
  summary: PlanSummary;
  made_at: string;
  writes: Write[];
}
export type ChangeState =
  'applying' | 'applied' | 'applied-in-part' | 'undoing' | 'undone' | 'undone-in-part';
export interface ChangeRow {
  id: number;
  state: ChangeState;
  title: string;
  reason: string;
  summary: PlanSummary;
  by: string | null;
  undone_by: string | null;
  made_at: string;
  applied_at: string | null;
  undone_at: string | null;
  stale: number | null;
}
export interface PageVerdict {
  id?: number;
  title?: string;
  path?: string;
  address: string;
  verdict: 'fresh' | 'stale' | 'old' | 'unreachable';
  words: string;
  age?: number | null;
}
export interface Verification {
  looked_at: string;
  pages: PageVerdict[];
  reached: number;
  files: PageVerdict[];
  stale: number;
  fresh: number;
  unreachable: number;
}
export interface Change extends ChangeRow {
  verification: Verification | null;
  plan_id: number | null;
  writes: Write[];
}

export interface Family {
  cause: string;
  references: number;
  records: number;
  pages: number;
  live: number;
  files: number;
  sample: string | null;
  sentence: string;
}
export interface Desk {
  broken: { references: number; pages: number; families: Family[] };
  standing: Partial<Record<StandingWord, number>>;
  idle: { items: number; files: number; bytes: number };
  large: { items: number; bytes: number };
  copies: { extra: number; groups: number };
  expired_banners: number;
  numbers: Record<
    'items' | 'files' | 'bytes' | 'rendition_bytes' | 'records' | 'pages' | 'references',
    number
  >;
  unread: number;
  stale_changes: { id: number; title: string; stale: number }[];
}
export interface PlaceKind {
  kind: string;
  records: number;
  live: number;
  waiting: number;
  fading: number;
  references: number;
}
export interface Resting {
  idle: { items: number; files: number; bytes: number };
  resting: number;
  archived: number;
}
