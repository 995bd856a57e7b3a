import { useEffect, useEffectEvent } from 'react';

/** Whether a key press belongs to a field, a dialog or a shortcut of the browser. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target;
  return (
    event.ctrlKey ||
    event.metaKey ||
    event.altKey ||
    (target instanceof HTMLElement &&
      (target.isContentEditable ||
        ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
        target.closest('dialog[open]') !== null))
  );
}

/** Acts on keys pressed anywhere on the page, as long as nobody is typing. */
export function useKeys(act: (event: KeyboardEvent) => void): void {
  const onPress = useEffectEvent(act);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!isTyping(event)) {
        onPress(event);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

/** Acts on one key pressed anywhere on the page, as long as nobody is typing. */
export function useKey(key: string, act: () => void): void {
  useKeys((event) => {
    if (event.key === key) {
      event.preventDefault();
      act();
    }
  });
}
