// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { json, portal, show } from '../../../shared/testing/portal';
import { SettingsDialog } from './SettingsDialog';

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

describe('SettingsDialog', () => {
  it('leaves to the portal what is left empty', async () => {
    const none = {
      silenceMinutes: null,
      bundleDays: null,
      bundleMegabytes: null,
      mainBranch: null,
    };
    const onClose = vi.fn();
    portal.answers['GET streams/settings'] = () =>
      json({
        own: { ...none, bundleDays: 7 },
        usual: { silenceMinutes: 30, bundleDays: 90, bundleMegabytes: 500, mainBranch: null },
      });
    portal.answers['PUT streams/settings'] = () => json(none);
    show(<SettingsDialog project="p" stream="a/b" onClose={onClose} />);
    const days = (await screen.findByLabelText(/Bundles are kept/)) as HTMLInputElement;
    expect(days.value).toBe('7');
    const silence = screen.getByLabelText(/closes after a silence/) as HTMLInputElement;
    expect(silence.placeholder).toBe('30');
    fireEvent.change(days, { target: { value: '' } });
    fireEvent.change(silence, { target: { value: '45' } });
    fireEvent.change(screen.getByLabelText(/main branch/), { target: { value: ' develop ' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save', hidden: true }));

    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(portal.changes().map((call) => call.body)).toEqual([
      { ...none, silenceMinutes: 45, mainBranch: 'develop' },
    ]);
  });
});
