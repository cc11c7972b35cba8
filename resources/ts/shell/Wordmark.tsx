/** Three lines that leave one side together and arrive apart: where a thing is, and where it is met. */
export function Wordmark({ size = 26 }: { size?: number }) {
  return (
    <span className="inline-flex items-center gap-2">
      <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
        <rect width="32" height="32" rx="7" fill="var(--accent)" />
        <path
          d="M7 10c7 0 8 6 18 6M7 16h18M7 22c7 0 8-6 18-6"
          fill="none"
          stroke="var(--on-accent)"
          strokeWidth="2.3"
          strokeLinecap="round"
        />
        <circle cx="25" cy="16" r="3.2" fill="var(--mark)" />
      </svg>
      <span className="font-display text-[1.3rem] leading-none font-extrabold tracking-tight">Ylema</span>
    </span>
  );
}
