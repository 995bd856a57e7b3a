import { CircleHelp } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { isTyping } from '../shared/lib/keys';

const KEYS: [string, string][] = [
  ['j  ↓', 'next result'],
  ['k  ↑', 'previous result'],
  ['n', 'next failing result that is new'],
  ['/', 'filter the results'],
  ['s', 'switch between list and suites'],
  ['?', 'show these keys'],
];

/** The keys, behind `?`. */
export function KeysDialog() {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === '?' && !isTyping(event)) {
        event.preventDefault();
        dialog.current?.showModal();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square"
        aria-label="Keys"
        onClick={() => dialog.current?.showModal()}
      >
        <CircleHelp size={17} aria-hidden />
      </button>
      <dialog ref={dialog} className="modal" aria-labelledby="keys-title">
        <div className="modal-box max-w-md">
          <h2 id="keys-title" className="font-serif text-xl">
            Keys
          </h2>
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
          <form method="dialog" className="modal-action">
            <button type="submit" className="btn btn-sm">
              Close
            </button>
          </form>
        </div>
        <form method="dialog" className="modal-backdrop">
          <button type="submit" tabIndex={-1}>
            close
          </button>
        </form>
      </dialog>
    </>
  );
}
