import { TextField } from '../../shared/ui/Form';

/** Two new passwords that must be the same. */
export function NewPassword(props: {
  label: string;
  again: string;
  value: { next: string; again: string };
  onChange: (value: { next: string; again: string }) => void;
}) {
  const { value, onChange } = props;
  return (
    <>
      <TextField
        label={props.label}
        type="password"
        autoComplete="new-password"
        className="mt-4"
        value={value.next}
        onChange={(next) => onChange({ ...value, next })}
      />
      <TextField
        label={props.again}
        type="password"
        autoComplete="new-password"
        className="mt-4"
        value={value.again}
        onChange={(again) => onChange({ ...value, again })}
      />
      {differs(value) ? (
        <p role="alert" className="mt-3 text-error">
          The two new passwords are not the same.
        </p>
      ) : null}
    </>
  );
}

/** Whether the second is typed, and is another one. */
export function differs(value: { next: string; again: string }): boolean {
  return value.again !== '' && value.again !== value.next;
}
