import { useEffect, useState } from 'react';

const PAUSE_MS = 250;

/**
 * What somebody types, told on after a pause. Until then it is kept here: a field that waited for
 * an address to change would lose what is typed meanwhile.
 */
export function usePausedText(
  text: string,
  onChange: (text: string) => void,
): [string, (typed: string) => void] {
  const [typed, setTyped] = useState(text);
  const [sent, setSent] = useState(text);
  const [seen, setSeen] = useState(text);
  if (text !== seen) {
    setSeen(text);
    if (text !== sent) {
      // Changed from outside, as by a link; what was typed before has no say any more.
      setTyped(text);
    }
  }
  useEffect(() => {
    if (typed === text) {
      return;
    }
    const timer = setTimeout(() => {
      setSent(typed);
      onChange(typed);
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [typed, text, onChange]);
  return [typed, setTyped];
}
