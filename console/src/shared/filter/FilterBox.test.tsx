// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { json, portal, show } from '../testing/portal';
import { FilterBox } from './FilterBox';

beforeEach(() => portal.reset());
afterEach(cleanup);

function box(filter: string) {
  const onChange = vi.fn<(filter: string) => void>();
  show(<FilterBox project="p" of="result" filter={filter} onChange={onChange} placeholder="all" />);
  return onChange;
}

const field = () => screen.getByLabelText('Filter of results') as HTMLTextAreaElement;

function write(text: string) {
  fireEvent.focus(field());
  fireEvent.change(field(), { target: { value: text, selectionStart: text.length } });
}

describe('a filter box', () => {
  it('proposes what could stand there, and writes what is chosen', async () => {
    portal.answers['GET filters'] = () =>
      json({
        fault: { position: 11, text: 'the filter ends here' },
        from: 11,
        to: 15,
        proposals: [
          { text: '"failed"', meaning: '' },
          { text: '"fixed"', meaning: '' },
        ],
      });
    box('');
    write('outcome eq "fai');
    const options = await screen.findAllByRole('option');
    expect(options.map((one) => one.textContent)).toEqual(['"failed"', '"fixed"']);
    fireEvent.keyDown(field(), { key: 'ArrowDown' });
    expect(screen.getByRole('option', { selected: true }).textContent).toBe('"failed"');
    expect(field().getAttribute('aria-activedescendant')).toBe(options[0]?.id);
    fireEvent.keyDown(field(), { key: 'Enter' });
    expect(field().value).toBe('outcome eq "failed" ');
    // At once: whoever types on is not interrupted.
    expect(field().selectionStart).toBe(field().value.length);
  });

  it('applies what can be understood after a pause, and at once with the enter key', async () => {
    portal.answers['GET filters'] = () => json({ fault: null, from: 7, to: 7, proposals: [] });
    const onChange = box('');
    write('name pr');
    await waitFor(() => expect(onChange).toHaveBeenCalledWith('name pr'), { timeout: 3000 });
    onChange.mockClear();
    write('name pr ');
    write('');
    expect(onChange).toHaveBeenCalledWith('');
  });

  it('says when there is no help, and asks without it', async () => {
    portal.answers['GET filters'] = () => json({ detail: 'Busy.' }, { status: 503 });
    const onChange = box('');
    write('name pr');
    expect((await screen.findByRole('alert')).textContent).toContain('Busy.');
    expect(onChange).not.toHaveBeenCalled();
    fireEvent.keyDown(field(), { key: 'Enter' });
    expect(onChange).toHaveBeenCalledWith('name pr');
  });

  it('shows the word that is wrong, and does not apply it', async () => {
    portal.answers['GET filters'] = () =>
      json({
        fault: { position: 0, text: 'a result has no “nam”; did you mean “name”?' },
        from: 6,
        to: 6,
        proposals: [],
      });
    const onChange = box('');
    write('nam pr');
    const fault = await screen.findByRole('alert');
    expect(fault.querySelector('mark')?.textContent).toBe('nam');
    expect(fault.textContent).toContain('did you mean “name”?');
    expect(field().getAttribute('aria-invalid')).toBe('true');
    fireEvent.keyDown(field(), { key: 'Enter' });
    expect(onChange).not.toHaveBeenCalled();
  });
});
