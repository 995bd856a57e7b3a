// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { json, portal, show } from '../testing/portal';
import { NoteDialog } from './NoteDialog';
import { OverruleDialog } from './OverruleDialog';

beforeEach(() => {
  portal.reset();
  // jsdom has dialogs, but cannot show them.
  HTMLDialogElement.prototype.showModal = function show() {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function close() {
    this.open = false;
  };
});

afterEach(cleanup);

describe('NoteDialog', () => {
  const note = { description: 'The quay', labels: { team: 'fares' }, tags: ['storm'] };
  const onClose = vi.fn();

  async function open() {
    onClose.mockReset();
    portal.answers['GET runs/7/note'] ??= () => json(note, { headers: { ETag: '"3"' } });
    portal.answers['GET runs/7/edits'] = () =>
      json([
        {
          at: '2026-11-20T03:00:00Z',
          by: 'lead',
          field: 'label team',
          result: null,
          resultName: null,
          before: null,
          after: 'fares',
          reason: null,
        },
      ]);
    show(
      <NoteDialog
        project="p"
        subject={{ kind: 'run', id: 7 }}
        title="About it"
        onClose={onClose}
      />,
    );
    await screen.findByLabelText('Description');
  }

  it('sends the whole note with the version that was read', async () => {
    portal.answers['PUT runs/7/note'] = () => json(note);
    await open();
    fireEvent.change(screen.getByLabelText(/^Tags/), { target: { value: 'storm quay' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save', hidden: true }));

    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(portal.changes()).toEqual([
      {
        method: 'PUT',
        path: 'runs/7/note',
        ifMatch: '"3"',
        body: { ...note, tags: ['storm', 'quay'] },
      },
    ]);
  });

  it('tells who changed what', async () => {
    await open();
    expect(await screen.findByText('1 change so far')).toBeTruthy();
    expect(screen.getByText(/label team: none → fares/)).toBeTruthy();
  });

  it('says when that cannot be read, and can be saved all the same', async () => {
    await open();
    cleanup();
    portal.answers['GET runs/7/edits'] = () => json({ detail: 'no database' }, { status: 503 });
    show(<NoteDialog project="p" subject={{ kind: 'run', id: 7 }} title="It" onClose={onClose} />);
    expect(await screen.findByText(/could not be read: no database/)).toBeTruthy();
    const save = screen.getByRole('button', { name: 'Save', hidden: true });
    expect((save as HTMLButtonElement).disabled).toBe(false);
  });

  it('does not send labels that are none', async () => {
    await open();
    fireEvent.change(screen.getByLabelText(/^Labels/), { target: { value: 'team' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save', hidden: true }));

    expect((await screen.findByRole('alert', { hidden: true })).textContent).toContain('key=value');
    expect(portal.changes()).toEqual([]);
    expect(onClose).not.toHaveBeenCalled();
  });

  it('keeps what was typed when somebody was quicker, and can go on from theirs', async () => {
    portal.answers['PUT runs/7/note'] = () =>
      json({ detail: 'lead changed this' }, { status: 412, statusText: 'Precondition Failed' });
    await open();
    fireEvent.change(screen.getByLabelText('Description'), { target: { value: 'Mine' } });
    portal.answers['GET runs/7/note'] = () =>
      json({ description: 'Theirs', labels: {}, tags: [] }, { headers: { ETag: '"4"' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save', hidden: true }));

    const theirs = await screen.findByRole('region', { name: 'What stands now', hidden: true });
    expect(theirs.textContent).toContain('Theirs');
    expect((screen.getByLabelText('Description') as HTMLTextAreaElement).value).toBe('Mine');
    fireEvent.click(screen.getByRole('button', { name: 'Go on from theirs', hidden: true }));
    expect((screen.getByLabelText('Description') as HTMLTextAreaElement).value).toBe('Theirs');
    portal.answers['PUT runs/7/note'] = () => json(note);
    fireEvent.click(screen.getByRole('button', { name: 'Save', hidden: true }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(portal.changes().map((call) => call.ifMatch)).toEqual(['"3"', '"4"']);
  });
});

describe('OverruleDialog', () => {
  const onClose = vi.fn();

  function open(outcome: 'failed' | 'skipped', reported: 'failed' | null) {
    onClose.mockReset();
    show(
      <OverruleDialog
        project="p"
        run={7}
        result="1-0"
        name="adds"
        outcome={outcome}
        reported={reported}
        onClose={onClose}
      />,
    );
  }

  it('offers every outcome but the one that holds, and wants a reason', async () => {
    portal.answers['PUT runs/7/results/1-0/outcome'] = () => new Response(null, { status: 204 });
    open('failed', null);
    const choices = screen.getAllByRole('radio', { hidden: true });
    expect(choices).toHaveLength(4);
    fireEvent.click(screen.getByLabelText('skipped'));
    expect((screen.getByLabelText('Why') as HTMLTextAreaElement).required).toBe(true);
    fireEvent.change(screen.getByLabelText('Why'), { target: { value: 'until Monday' } });
    fireEvent.click(screen.getByRole('button', { name: 'Overrule', hidden: true }));

    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(portal.changes().map((call) => call.body)).toEqual([
      { seen: 'failed', outcome: 'skipped', reason: 'until Monday' },
    ]);
  });

  it('takes an overruling back', async () => {
    portal.answers['PUT runs/7/results/1-0/outcome'] = () => new Response(null, { status: 204 });
    open('skipped', 'failed');
    fireEvent.change(screen.getByLabelText('Why'), { target: { value: 'it is real' } });
    fireEvent.click(screen.getByRole('button', { name: 'Take it back', hidden: true }));

    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(portal.changes().map((call) => call.body)).toEqual([
      { seen: 'skipped', outcome: null, reason: 'it is real' },
    ]);
  });

  it('stays open and says why when the portal refuses', async () => {
    portal.answers['PUT runs/7/results/1-0/outcome'] = () =>
      json({ detail: 'somebody changed this' }, { status: 412 });
    open('failed', null);
    fireEvent.change(screen.getByLabelText('Why'), { target: { value: 'x' } });
    fireEvent.click(screen.getByRole('button', { name: 'Overrule', hidden: true }));

    expect((await screen.findByRole('alert', { hidden: true })).textContent).toBe(
      'somebody changed this',
    );
    expect(onClose).not.toHaveBeenCalled();
  });
});
