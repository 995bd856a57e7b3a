// @vitest-environment jsdom

import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { AttachmentList } from './AttachmentList';
import { AttemptView } from './AttemptView';
import { type Look, LookContext, WHOLE } from './look';
import { StepList } from './StepList';
import { TraceView } from './TraceView';
import { attempt, failure, step, text } from './testData';
import type { Attachment } from './types';

afterEach(() => {
  cleanup();
});

describe('TraceView', () => {
  const blocks = [
    { kind: 'text' as const, lines: ['AssertionError: 4 is not 5'] },
    { kind: 'framework' as const, lines: ['at junit.A', 'at junit.B'] },
    { kind: 'own' as const, lines: ['at org.skerrow.fares.Rounding.up(Rounding.java:12)'] },
  ];

  it('folds the frames of frameworks until they are asked for', () => {
    render(<TraceView blocks={blocks} />);
    expect(screen.queryByText(/junit\.A/)).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: '… 2 framework frames' }));
    expect(screen.getByText(/junit\.A/)).toBeTruthy();
  });

  it('raises own frames', () => {
    render(<TraceView blocks={blocks} />);
    const own = screen.getByText(/Rounding\.up/);
    const said = screen.getByText(/AssertionError/);
    expect(own.className).not.toBe(said.className);
    expect(own.className).toContain('font-semibold');
  });

  it('can be scrolled by the keyboard', () => {
    render(<TraceView blocks={blocks} />);
    expect(screen.getByRole('group', { name: 'Trace' }).tabIndex).toBe(0);
  });
});

describe('AttemptView', () => {
  const show = (some: Parameters<typeof attempt>[0]) => {
    const onWhole = vi.fn();
    render(
      <AttemptView attempt={attempt(some)} href={(one) => `/a/${one.id}`} onWhole={onWhole} />,
    );
    return onWhole;
  };

  it('puts expected and actual side by side when the message has them', () => {
    show({
      failures: [
        failure({
          type: 'AssertionFailedError',
          message: text('expected: <4> but was: <5>'),
          comparison: { expected: '4', actual: '5' },
        }),
      ],
    });
    expect(screen.getByText('Expected').nextElementSibling?.textContent).toBe('4');
    expect(screen.getByText('Actual').nextElementSibling?.textContent).toBe('5');
    expect(screen.getByText('AssertionFailedError')).toBeTruthy();
  });

  it('numbers the messages when there are several', () => {
    show({ failures: [failure({ message: text('one') }), failure({ message: text('two') })] });
    expect(screen.getByRole('heading', { name: 'Message 1' })).toBeTruthy();
    expect(screen.getByRole('heading', { name: 'Message 2' })).toBeTruthy();
  });

  it('has no heading for a message that there is not', () => {
    const frames = [{ kind: 'text' as const, lines: ['Failed test'] }];
    show({ failures: [failure({ trace: text('Failed test'), traceBlocks: frames })] });
    expect(screen.queryByRole('heading', { name: 'Message' })).toBeNull();
    expect(screen.getByRole('heading', { name: 'Trace' })).toBeTruthy();
  });

  it('says how much of a long text is missing, and fetches it when asked', () => {
    const onWhole = show({ stdout: { text: 'x'.repeat(1000), length: 5_000_000, cut: true } });
    expect(screen.getByText(/The first 1,000 of 5,000,000 characters/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Show all of it' }));
    expect(onWhole).toHaveBeenCalledOnce();
  });

  it('says so when there is nothing to tell', () => {
    show({ outcome: 'passed', durationMs: 1500 });
    expect(screen.getByText(/nothing more of this: it took 1\.5 s/)).toBeTruthy();
  });

  it('keeps markup in messages as text', () => {
    show({ failures: [failure({ message: text('<script>alert(1)</script>') })] });
    expect(document.querySelector('script')).toBeNull();
    expect(screen.getByRole('group', { name: 'Message' }).textContent).toBe(
      '<script>alert(1)</script>',
    );
  });
});

describe('a look inside', () => {
  const looking = (look: Partial<Look>) => {
    const onLook = vi.fn<(next: Partial<Look>) => void>();
    const told = attempt({
      stdout: text(`INFO opens\n${'WARN asks again\n'.repeat(40)}ERROR gives up\n`),
      steps: [step({ text: 'opens' }), step({ text: 'boards', outcome: 'failed' })],
    });
    render(
      <LookContext value={{ look: { ...WHOLE, ...look }, onLook }}>
        <AttemptView attempt={told} href={() => ''} onWhole={vi.fn()} />
      </LookContext>,
    );
    return onLook;
  };
  const output = () => screen.getByRole('group', { name: 'Output' }).textContent;

  it('folds lines that repeat themselves, and unfolds them', () => {
    looking({});
    expect(output()).toBe('INFO opensWARN asks againthis line 40 timesERROR gives up');
    fireEvent.click(screen.getByRole('button', { name: 'this line 40 times' }));
    expect(output()?.match(/asks again/g)).toHaveLength(40);
  });

  it('shows lines of a level, and says how many there are', () => {
    const onLook = looking({ levels: ['error'] });
    expect(output()).toBe('ERROR gives up');
    expect(screen.getByText('1 of 42 lines')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: '40 warn' }));
    expect(onLook).toHaveBeenCalledWith({ levels: ['error', 'warn'] });
  });

  it('says of lines and steps that there are others only', () => {
    looking({ levels: ['trace'], steps: ['errored'] });
    expect(screen.getByText('… 42 lines of other levels')).toBeTruthy();
    expect(screen.getByText('No step ended so.')).toBeTruthy();
    expect(screen.getByRole('button', { name: '0 trace' }).getAttribute('aria-pressed')).toBe(
      'true',
    );
  });

  it('shows steps that failed', () => {
    looking({ steps: ['failed'] });
    expect(screen.getByText('boards')).toBeTruthy();
    expect(screen.queryByText('opens')).toBeNull();
  });
});

describe('StepList', () => {
  const image: Attachment = {
    id: '1-2-0-0',
    name: 'quay.png',
    mediaType: 'image/png',
    kind: 'image',
    bytes: 812,
    kept: true,
  };

  it('shows words, tables, inner steps and what a step left behind', () => {
    render(
      <StepList
        steps={[
          step({ keyword: 'Given', text: 'these fares', table: [['port'], ['Holm']] }),
          step({ text: 'outer', steps: [step({ text: 'inner', outcome: 'failed' })] }),
          step({ text: 'looks', attachments: [0, 7], status: 'undefined', outcome: 'errored' }),
        ]}
        attachments={[image]}
        href={(one) => `/a/${one.id}`}
      />,
    );
    expect(screen.getByRole('columnheader').textContent).toBe('port');
    expect(screen.getByText('inner').closest('li')?.parentElement?.closest('li')).toBeTruthy();
    expect(screen.getByRole('img', { name: 'quay.png' }).getAttribute('src')).toBe('/a/1-2-0-0');
    expect(screen.getByText('undefined')).toBeTruthy();
  });

  it('says of a file that was not sent, and never links to it', () => {
    render(
      <AttachmentList
        attachments={[{ ...image, kept: false, kind: 'other', bytes: 0 }]}
        href={() => '/nowhere'}
      />,
    );
    expect(screen.getByText('named, not sent')).toBeTruthy();
    expect(screen.queryByRole('link')).toBeNull();
  });
});
