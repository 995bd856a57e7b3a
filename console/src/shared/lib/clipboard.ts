/**
 * Copies a text; whether that went well. Over plain HTTP a browser has no clipboard to offer (it
 * wants a secure address), so there a hidden field is selected and copied.
 */
export async function copyText(text: string): Promise<boolean> {
  if (navigator.clipboard) {
    try {
      await navigator.clipboard.writeText(text);
      return true;
    } catch {
      // not permitted: the field may still be
    }
  }
  return copyFromField(text);
}

function copyFromField(text: string): boolean {
  const before = document.activeElement;
  const field = document.createElement('textarea');
  field.value = text;
  field.readOnly = true;
  field.style.position = 'fixed';
  field.style.opacity = '0';
  document.body.append(field);
  field.focus();
  field.select();
  try {
    return document.execCommand('copy');
  } catch {
    return false;
  } finally {
    field.remove();
    if (before instanceof HTMLElement) {
      before.focus();
    }
  }
}
