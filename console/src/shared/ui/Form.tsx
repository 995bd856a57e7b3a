import { type FormEvent, type ReactNode, useId } from 'react';

/** What went wrong, where it was asked for; nothing when nothing did. */
export function Wrong({ error, className = 'mt-3' }: { error: Error | null; className?: string }) {
  return error ? (
    <p role="alert" className={`${className} text-error first-letter:uppercase`}>
      {error.message}
    </p>
  ) : null;
}

interface FieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  className?: string;
}

/** A line to type, below its name. */
export function TextField(
  props: FieldProps & {
    type?: 'text' | 'password';
    autoComplete?: string;
    placeholder?: string;
    mono?: boolean;
  },
) {
  const id = useId();
  return (
    <div className={props.className}>
      <label htmlFor={id} className="text-sm font-semibold">
        {props.label}
      </label>
      <input
        id={id}
        className={`input mt-1 w-full ${props.mono ? 'font-mono' : ''}`}
        type={props.type ?? 'text'}
        autoComplete={props.autoComplete}
        placeholder={props.placeholder}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
        required
      />
    </div>
  );
}

/** One of several; `small` in a table's row, where the label is for screen readers only. */
export function SelectField(
  props: FieldProps & {
    options: readonly (readonly [value: string, text: string])[];
    disabled?: boolean | undefined;
    small?: boolean;
  },
) {
  const id = useId();
  return (
    <div className={props.className}>
      <label htmlFor={id} className={props.small ? 'sr-only' : 'text-sm font-semibold'}>
        {props.label}
      </label>
      <select
        id={id}
        className={props.small ? 'select select-sm w-full' : 'select mt-1 w-full'}
        value={props.value}
        disabled={props.disabled}
        onChange={(e) => props.onChange(e.target.value)}
      >
        {props.options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </div>
  );
}

/** A box in which one thing is made: fields in a row, the button at their end. */
export function MakeForm(props: {
  title: string;
  button: string;
  onSubmit: () => void;
  busy: boolean;
  error: Error | null;
  /** The fields of the row. */
  children: ReactNode;
  /** Further fields, below. */
  more?: ReactNode;
  /** What came of it. */
  made?: ReactNode;
}) {
  const submit = (event: FormEvent) => {
    event.preventDefault();
    props.onSubmit();
  };
  return (
    <form onSubmit={submit} className="mt-6 rounded-box border border-base-300 bg-base-200 p-5">
      <h2 className="font-serif text-xl">{props.title}</h2>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        {props.children}
        <button type="submit" className="btn btn-primary" disabled={props.busy}>
          {props.button}
        </button>
      </div>
      {props.more}
      <Wrong error={props.error} />
      {props.made}
    </form>
  );
}

/** What is shown once, to be copied. */
export function Once({ say, children }: { say: string; children: ReactNode }) {
  return (
    <div role="status" className="mt-4">
      <p className="font-semibold">{say}</p>
      {children}
    </div>
  );
}
