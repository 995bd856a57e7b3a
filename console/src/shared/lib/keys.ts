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
