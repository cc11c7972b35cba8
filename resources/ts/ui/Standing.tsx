import type { StandingWord } from '@/api/types';

const SAYS: Record<StandingWord, string> = {
  live: 'a visitor can meet it now',
  waiting: 'only in drafts, future dates, or carriers that nothing shows yet',
  fading: 'only in what is expired, binned or past',
  idle: 'nothing refers to it',
};

/** Colour and shape both tell the standing, so that neither has to be seen. */
export function StandingShape({ standing, size = 11 }: { standing: StandingWord; size?: number }) {
  const colour = `var(--${standing})`;
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true" className="shrink-0">
      {standing === 'live' && <circle cx="6" cy="6" r="5" fill={colour} />}
      {standing === 'waiting' && (
        <>
          <circle cx="6" cy="6" r="4.3" fill="none" stroke={colour} strokeWidth="1.5" />
          <path d="M6 1.7a4.3 4.3 0 0 1 0 8.6z" fill={colour} />
        </>
      )}
      {standing === 'fading' && <path d="M1 2.4h10L6 11z" fill={colour} />}
      {standing === 'idle' && (
        <rect
          x="1.6"
          y="1.6"
          width="8.8"
          height="8.8"
          rx="1"
          fill="none"
          stroke={colour}
          strokeWidth="1.6"
          strokeDasharray="2.2 1.4"
        />
      )}
    </svg>
  );
}

export function Standing({ standing }: { standing: StandingWord }) {
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap" title={SAYS[standing]}>
      <StandingShape standing={standing} />
      <span style={{ color: `var(--${standing})` }} className="font-semibold">
        {standing}
      </span>
    </span>
  );
}
