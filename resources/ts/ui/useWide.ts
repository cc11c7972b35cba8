import { useSyncExternalStore } from 'react';

/** From here on panels stand beside each other; below it, and on a screen magnified fourfold, they stand one below. */
const WIDE = window.matchMedia('(min-width: 48rem)');

function watch(changed: () => void) {
  WIDE.addEventListener('change', changed);
  return () => WIDE.removeEventListener('change', changed);
}

export function useWide(): boolean {
  return useSyncExternalStore(watch, () => WIDE.matches);
}
