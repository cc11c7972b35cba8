import { useEffect } from 'react';

/** The name of the view in the browser's own title, so that tabs and history can be told apart. */
export function useTitle(title: string | null | undefined): void {
  useEffect(() => {
    if (title) document.title = `${title} · Ylema`;
  }, [title]);
}
