import { toast } from 'sonner';
import { Problem } from '@/api/client';

/** Says what went wrong, in the server's own sentence. */
export function sayProblem(error: unknown): void {
  const problem = error instanceof Problem ? error : null;
  // Where the session has ended, the way in is shown on top of the page, and says so itself.
  if (problem?.status === 401 || problem?.status === 419) return;
  toast.error(problem?.title ?? 'This did not work', {
    description: problem?.detail ?? (error instanceof Error ? error.message : undefined),
    duration: 12_000,
  });
}
