import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';
import { onPaper } from './paper';

const SOON_MS = 400;

/**
 * Whether what nobody sees yet may be drawn, too: after what is seen, and at once when the page goes
 * to paper.
 */
export function useLater(): boolean {
  const [later, setLater] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLater(true), SOON_MS);
    const off = onPaper(() => flushSync(() => setLater(true)));
    return () => {
      clearTimeout(timer);
      off();
    };
  }, []);
  return later;
}
