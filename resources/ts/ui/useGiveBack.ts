import { useState } from 'react';

/**
 * For a dialog that no trigger of its own opens: when it closes, the focus goes back to what had it when it was
 * mounted, as far as that is still there.
 */
export function useGiveBack(): (event: Event) => void {
  const [opener] = useState(() => document.activeElement);
  return (event) => {
    event.preventDefault();
    if (opener instanceof HTMLElement && opener.isConnected) opener.focus();
  };
}
