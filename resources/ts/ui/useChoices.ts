import { useEffect, useRef } from 'react';
import { useLocation, useSearchParams } from 'react-router';

export type Choices = Readonly<Record<string, string | null>>;

/** A query string with these choices made in it; null takes one away. */
export function withChoices(search: string, choices: Choices): URLSearchParams {
  const next = new URLSearchParams(search);
  for (const [name, value] of Object.entries(choices)) {
    if (value === null) next.delete(name);
    else next.set(name, value);
  }
  return next;
}

/**
 * What is chosen in a view, kept in its address. A choice is made upon the address of that moment, not on the one that
 * was drawn when the choosing function was taken hold of: whoever chooses while something is being sent keeps both.
 * Nothing is chosen in a view that was left meanwhile.
 */
export function useChoices(): [URLSearchParams, (choices: Choices, replace?: boolean) => void] {
  const [params, setParams] = useSearchParams();
  const { pathname } = useLocation();
  // Those that are on their way into the address: the router takes a moment, and a second choice may not wait for it.
  const underway = useRef<Choices>({});
  useEffect(() => {
    underway.current = {};
  }, [params]);
  return [
    params,
    (choices, replace = false) => {
      if (window.location.pathname !== pathname) return;
      underway.current = { ...underway.current, ...choices };
      setParams(withChoices(window.location.search, underway.current), { replace });
    },
  ];
}
