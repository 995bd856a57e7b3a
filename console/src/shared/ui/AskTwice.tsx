import { useState } from 'react';

/** A button for what is not easily taken back: it asks once more, in its own place. */
export function AskTwice(props: {
  label: string;
  really: string;
  onYes: () => void;
  disabled?: boolean;
}) {
  const [asked, setAsked] = useState(false);
  if (!asked) {
    return (
      <button
        type="button"
        className="btn btn-sm"
        disabled={props.disabled}
        onClick={() => setAsked(true)}
      >
        {props.label}
      </button>
    );
  }
  return (
    <span className="inline-flex gap-2">
      <button
        type="button"
        className="btn btn-error btn-sm"
        disabled={props.disabled}
        onClick={() => {
          setAsked(false);
          props.onYes();
        }}
      >
        {props.really}
      </button>
      <button type="button" className="btn btn-sm" onClick={() => setAsked(false)}>
        Keep
      </button>
    </span>
  );
}
