/** The shapes that the API hands over, under the interface's own words; all of them come from resources/openapi.yaml. */
export type {
  Change,
  ChangeRow,
  ChangeState,
  Desk,
  Edit,
  Excerpt,
  Facet,
  Facets,
  Family,
  MediaItem,
  MediaRow,
  PlaceKind,
  Plan,
  PlanPictures,
  Reading,
  Resting,
  Session,
  Site,
  Step,
  Steps,
  StepState,
  SwapRequest,
  Trail as TrailData,
  TrailFile,
  TrailRecord,
  TrailReference,
  Standing as StandingWord,
  User,
  Verdict,
  Verification,
} from './schema';
import type { Upload as Taken } from './schema';

/** An upload as the server took it. */
export type Upload = Taken;
