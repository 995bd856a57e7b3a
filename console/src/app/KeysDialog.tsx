import { CircleHelp } from 'lucide-react';
import { useState } from 'react';
import { useKey } from '../shared/lib/keys';
import { Dialog } from '../shared/ui/Dialog';

const KEYS: [string, string][] = [
  ['j  ↓', 'next result'],
  ['k  ↑', 'previous result'],
  ['n', 'next failing result that is new; among groups, the next unsorted one'],
  ['/', 'filter the results'],
  ['f', 'find in the result'],
  ['h', 'what the test did before, at any result'],
  ['q', 'put the chosen test into quarantine'],
  ['p', 'pin the result, to set another one beside it'],
  ['s', 'switch between list and suites'],
  ['g', 'failures by group, or as a list'],
  ['1 … 9', 'explain the chosen group'],
  ['y', 'accept what is suggested for it'],
  ['c', 'write a comment to it'],
  ['u', 'take back what explains it'],
  ['m', 'say that the group is mended'],
  ['x', 'mark the group, to explain several at once'],
  ['l', 'find a ticket for the group'],
  ['t', 'put the marked groups together as one cause'],
  ['a', 'take the group, or give it back'],
  ['?', 'show these keys'],
];

/** The keys, behind `?`. */
export function KeysDialog() {
  const [open, setOpen] = useState(false);
  useKey('?', () => setOpen(true));
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square"
        aria-label="Keys"
        onClick={() => setOpen(true)}
      >
        <CircleHelp size={17} aria-hidden />
      </button>
      {open ? (
        <Dialog title="Keys" onClose={() => setOpen(false)}>
          <dl className="mt-4 grid grid-cols-[6rem_1fr] gap-y-2">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="kbd kbd-sm">{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <div className="modal-action">
            <button type="button" className="btn btn-sm" onClick={() => setOpen(false)}>
              Close
            </button>
          </div>
        </Dialog>
      ) : null}
    </>
  );
}
