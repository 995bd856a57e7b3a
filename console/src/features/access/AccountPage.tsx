import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { changePassword } from './api';

/** What somebody can do about the own account. */
export function AccountPage({ login }: { login: string }) {
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Account</h1>
      <p className="mt-1 text-quiet">
        Signed in as <strong className="text-base-content">{login}</strong>.
      </p>
      <PasswordForm login={login} />
    </main>
  );
}

const EMPTY = { present: '', next: '', again: '' };

function PasswordForm({ login }: { login: string }) {
  const [typed, setTyped] = useState(EMPTY);
  const mutation = useMutation({
    mutationFn: () => changePassword(typed.present, typed.next),
    onSuccess: () => setTyped(EMPTY),
  });
  const differs = typed.again !== '' && typed.again !== typed.next;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!differs) {
      mutation.mutate();
    }
  };
  const change = (field: keyof typeof EMPTY) => (value: string) => {
    mutation.reset();
    setTyped({ ...typed, [field]: value });
  };
  return (
    <form
      onSubmit={submit}
      className="mt-6 max-w-md rounded-box border border-base-300 bg-base-200 p-5"
    >
      <h2 className="font-serif text-xl">Change the password</h2>
      <p className="mt-1 text-sm text-quiet">At least 12 characters. Other sign-ins end.</p>
      <input type="hidden" autoComplete="username" value={login} readOnly />
      <Field
        label="Present password"
        kind="current-password"
        value={typed.present}
        onChange={change('present')}
      />
      <Field
        label="New password"
        kind="new-password"
        value={typed.next}
        onChange={change('next')}
      />
      <Field
        label="New password again"
        kind="new-password"
        value={typed.again}
        onChange={change('again')}
      />
      {differs ? (
        <p role="alert" className="mt-3 text-error">
          The two new passwords are not the same.
        </p>
      ) : null}
      {mutation.error ? (
        <p role="alert" className="mt-3 text-error">
          {mutation.error.message}
        </p>
      ) : null}
      {mutation.isSuccess ? (
        <p role="status" className="mt-3">
          The password is changed.
        </p>
      ) : null}
      <button
        type="submit"
        className="btn btn-primary mt-5"
        disabled={mutation.isPending || differs}
      >
        Change password
      </button>
    </form>
  );
}

function Field(props: {
  label: string;
  kind: 'current-password' | 'new-password';
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <label className="mt-4 block">
      <span className="text-sm font-semibold">{props.label}</span>
      <input
        className="input mt-1 w-full"
        type="password"
        autoComplete={props.kind}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
        required
      />
    </label>
  );
}
