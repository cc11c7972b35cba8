/** How far something is; without a share, that it goes on. */
export function Progress({ share, label }: { share: number | null; label: string }) {
  const percent = share === null ? undefined : Math.round(Math.min(1, share) * 100);
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={percent}
      className="h-2 overflow-hidden rounded-full bg-line"
    >
      <div className="h-full bg-accent transition-[width]" style={{ width: `${percent ?? 8}%` }} />
    </div>
  );
}
