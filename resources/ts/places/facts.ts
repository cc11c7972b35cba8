import type { RecordView } from '@/api/types';
import type { Fact } from '@/ui/FactList';
import { fact } from '@/ui/words';

/** What the source says of a record beside its texts. */
export function sourceFacts(record: RecordView): Fact[] {
  return Object.entries(record.facts).map(([label, value]) => [
    label,
    value === null || value === '' ? null : fact(value),
  ]);
}
