// @vitest-environment jsdom
import { json, portal, show } from '../../shared/testing/portal';

// What is tested comes after what stands in for the portal.

import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useMayEdit, useOwns } from '../../shared/session/may';
import { AskTwice } from '../../shared/ui/AskTwice';
import { MembersPage } from './MembersPage';

beforeEach(() => portal.reset());
afterEach(cleanup);

const project = { key: 'p', name: 'Quay', role: 'owner', open: false };
const member = { login: 'cleo', role: 'reader', addedAt: '2026-11-20T03:00:00Z', addedBy: 'ada' };

function Offers() {
  return <output>{`${useMayEdit('p')} ${useOwns('p')}`}</output>;
}

describe('what is offered', () => {
  it.each([
    ['owner', 'true true'],
    ['contributor', 'true false'],
    ['reader', 'false false'],
    [null, 'false false'],
    ['something newer', 'false false'],
  ])('to somebody who is %s', async (role, offered) => {
    portal.answers['GET projects'] = () => json([{ ...project, role }]);
    show(<Offers />);
    expect(screen.getByRole('status').textContent).toBe('false false');
    await waitFor(() => expect(portal.calls).toHaveLength(1));
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe(offered));
  });
});

describe('AskTwice', () => {
  const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));

  it('does it only when asked twice, and can be left', () => {
    const onYes = vi.fn();
    show(<AskTwice label="Remove" really="Really remove cleo" onYes={onYes} />);
    press('Remove');
    press('Keep');
    expect(screen.queryByRole('button', { name: 'Really remove cleo' })).toBeNull();
    press('Remove');
    expect(onYes).not.toHaveBeenCalled();
    press('Really remove cleo');
    expect(onYes).toHaveBeenCalledTimes(1);
    expect(screen.getByRole('button', { name: 'Remove' })).toBeTruthy();
  });
});

describe('MembersPage', () => {
  const open = async () => {
    portal.answers['GET members'] = () => json([member]);
    portal.answers['GET projects'] = () => json([project]);
    show(<MembersPage project="p" />);
    return (await screen.findByLabelText(
      'Everybody who signs in may read this project',
    )) as HTMLInputElement;
  };

  it('opens the project with the click, before the portal has answered', async () => {
    let answer: (answer: Response) => void = () => {};
    portal.answers['PUT projects/p'] = () =>
      new Promise<Response>((resolve) => {
        answer = resolve;
      });
    const box = await open();
    fireEvent.click(box);
    expect(box.checked).toBe(true);
    await waitFor(() => expect(box.disabled).toBe(true));
    expect(portal.changes()).toEqual([
      { method: 'PUT', path: 'projects/p', ifMatch: null, body: { name: 'Quay', open: true } },
    ]);
    portal.answers['GET projects'] = () => json([{ ...project, open: true }]);
    answer(json({ ...project, open: true }));
    await waitFor(() =>
      expect(screen.getByRole('checkbox')).toMatchObject({ checked: true, disabled: false }),
    );
  });

  it('closes it again when the portal refuses, and says why', async () => {
    portal.answers['PUT projects/p'] = () => json({ detail: 'an owner may' }, { status: 403 });
    const box = await open();
    fireEvent.click(box);
    expect((await screen.findByRole('alert')).textContent).toBe('an owner may');
    expect(box.checked).toBe(false);
  });

  it('shows a reader who is who, and nothing to change', async () => {
    portal.answers['GET members'] = () => json([member]);
    portal.answers['GET projects'] = () => json([{ ...project, role: 'reader' }]);
    show(<MembersPage project="p" />);
    expect((await screen.findByRole('row', { name: /cleo/ })).textContent).toContain('reader');
    await waitFor(() => expect(portal.calls).toHaveLength(2));
    expect(screen.queryAllByRole('button')).toHaveLength(0);
    expect(screen.queryAllByRole('combobox')).toHaveLength(0);
  });

  it('keeps what was typed when somebody cannot be added', async () => {
    await open();
    portal.answers['PUT members/ghost'] = () => json({ detail: 'nobody' }, { status: 404 });
    const name = screen.getByLabelText('Name') as HTMLInputElement;
    fireEvent.change(name, { target: { value: 'ghost' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add' }));
    expect((await screen.findByRole('alert')).textContent).toBe('nobody');
    expect(name.value).toBe('ghost');
  });
});
