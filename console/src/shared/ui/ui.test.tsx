// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { isTyping } from '../lib/keys';
import { CopyButton } from './CopyButton';
import { asOutcome, OUTCOMES, OutcomeGlyph } from './OutcomeGlyph';
import { OutputBlock } from './OutputBlock';
import { RelativeTime } from './RelativeTime';
import { Empty, Failed, Loading } from './States';

afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('OutcomeGlyph', () => {
  it('has a shape of its own for every outcome, not only a colour', () => {
    const shapes = OUTCOMES.map((outcome) => {
      const { container } = render(<OutcomeGlyph outcome={outcome} />);
      return container.querySelector('svg')?.innerHTML;
    });
    expect(new Set(shapes).size).toBe(OUTCOMES.length);
  });

  it('is read out only when no text beside it tells the outcome', () => {
    render(<OutcomeGlyph outcome="not reached" label />);
    expect(screen.getByRole('img', { name: 'not reached' })).toBeTruthy();
    const { container } = render(<OutcomeGlyph outcome="passed" />);
    expect(container.querySelector('svg')?.getAttribute('aria-hidden')).toBe('true');
  });

  it('takes an outcome it does not know for errored', () => {
    expect(asOutcome('exploded')).toBe('errored');
    expect(asOutcome('skipped')).toBe('skipped');
  });
});

describe('OutputBlock', () => {
  it('shows markup as text', () => {
    const { container } = render(<OutputBlock text={'<img src=x onerror="alert(1)"> & more'} />);
    expect(container.querySelector('img')).toBeNull();
    expect(container.textContent).toBe('<img src=x onerror="alert(1)"> & more');
  });

  it('turns terminal colours into classes and drops their codes', () => {
    const { container } = render(
      <OutputBlock text={'\u001b[31mred\u001b[0m plain \u001b[1mbold'} />,
    );
    expect(container.textContent).toBe('red plain bold');
    expect(container.querySelector('.ansi-red-fg')?.textContent).toBe('red');
    expect(container.querySelector('.ansi-bold')?.textContent).toBe('bold');
  });
});

describe('CopyButton', () => {
  const press = async () => {
    await act(async () => {
      fireEvent.click(screen.getByRole('button', { name: 'Copy the trace' }));
    });
  };

  it('copies and says so', async () => {
    const writeText = vi.fn().mockResolvedValue(undefined);
    vi.stubGlobal('navigator', { clipboard: { writeText } });
    render(<CopyButton text="at a.b(C.java:1)" what="the trace" />);
    await press();
    expect(writeText).toHaveBeenCalledWith('at a.b(C.java:1)');
    expect(screen.getByRole('button').textContent).toBe('copied');
  });

  it('copies from a field where the address is not secure and there is no clipboard', async () => {
    vi.stubGlobal('navigator', {});
    let copied: string | undefined;
    document.execCommand = () => {
      copied = (document.activeElement as HTMLTextAreaElement | null)?.value;
      return true;
    };
    render(<CopyButton text="over plain HTTP" what="the trace" />);
    await press();
    expect(copied).toBe('over plain HTTP');
    expect(document.querySelector('textarea')).toBeNull();
    expect(screen.getByRole('button').textContent).toBe('copied');
  });

  it('does not claim to have copied when the browser refused', async () => {
    vi.stubGlobal('navigator', {});
    document.execCommand = () => false;
    render(<CopyButton text="x" what="the trace" />);
    await press();
    expect(screen.getByRole('button').textContent).toBe('not allowed by the browser');
  });
});

describe('RelativeTime', () => {
  it('tells the exact time on hover and goes on as time passes', () => {
    vi.useFakeTimers({ now: Date.parse('2026-11-20T12:00:00Z') });
    render(<RelativeTime iso="2026-11-20T09:00:00Z" />);
    const time = screen.getByText('3 hours ago');
    expect(time.getAttribute('title')).toContain('20 Nov 2026');
    act(() => vi.advanceTimersByTime(3_600_000));
    expect(screen.getByText('4 hours ago')).toBeTruthy();
  });
});

describe('the states of a list', () => {
  it('says that it is loading to those who do not see it', () => {
    render(<Loading />);
    expect(screen.getByRole('status').textContent).toBe('Loading');
  });

  it('shows what the portal said, and tries again when asked', () => {
    const retry = vi.fn();
    render(<Failed error={new Error('The stream has no run 7.')} retry={retry} />);
    expect(screen.getByRole('alert').textContent).toContain('The stream has no run 7.');
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(retry).toHaveBeenCalledOnce();
  });

  it('is a heading when it is all that the page says', () => {
    render(
      <Empty title="No run has arrived yet" page>
        Send one.
      </Empty>,
    );
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('No run has arrived yet');
  });
});

describe('isTyping', () => {
  const pressed = (target: Element, init: KeyboardEventInit = {}) => {
    let seen: boolean | undefined;
    const listen = (event: KeyboardEvent) => {
      seen = isTyping(event);
    };
    window.addEventListener('keydown', listen);
    document.body.append(target);
    target.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', bubbles: true, ...init }));
    window.removeEventListener('keydown', listen);
    return seen;
  };

  it('is true in fields and with the keys of the browser', () => {
    expect(pressed(document.createElement('input'))).toBe(true);
    expect(pressed(document.createElement('textarea'))).toBe(true);
    expect(pressed(document.createElement('button'))).toBe(false);
    expect(pressed(document.createElement('button'), { ctrlKey: true })).toBe(true);
    expect(pressed(document.createElement('button'), { metaKey: true })).toBe(true);
  });

  it('is true inside an open dialog', () => {
    const dialog = document.createElement('dialog');
    dialog.setAttribute('open', '');
    document.body.append(dialog);
    const button = document.createElement('button');
    dialog.append(button);
    let seen: boolean | undefined;
    window.addEventListener('keydown', (event) => {
      seen = isTyping(event);
    });
    button.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', bubbles: true }));
    expect(seen).toBe(true);
  });
});
