import { type ReactNode, useId, useLayoutEffect, useRef } from 'react';

/** A dialog over the page, open for as long as it is there. Escape closes it. */
export function Dialog(props: {
  title: string;
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  const title = useId();
  // Closed before it leaves the page, so that the focus goes back to where it was.
  useLayoutEffect(() => {
    const shown = dialog.current;
    shown?.showModal();
    return () => shown?.close();
  }, []);
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-labelledby={title}
      onCancel={(event) => {
        event.preventDefault();
        props.onClose();
      }}
    >
      <div className={`modal-box ${props.wide ? 'max-w-3xl' : 'max-w-md'}`}>
        <h2 id={title} className="font-serif text-xl break-words">
          {props.title}
        </h2>
        {props.children}
      </div>
    </dialog>
  );
}

/** At the foot of a form in a dialog: away without a change, or do it. */
export function DialogActions(props: { label: string; disabled: boolean; onCancel: () => void }) {
  return (
    <div className="modal-action">
      <button type="button" className="btn btn-sm btn-ghost" onClick={props.onCancel}>
        Cancel
      </button>
      <button type="submit" className="btn btn-sm btn-primary" disabled={props.disabled}>
        {props.label}
      </button>
    </div>
  );
}
