import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Dialog, DialogActions } from '../../../shared/ui/Dialog';
import { Wrong } from '../../../shared/ui/Form';
import { Failed, Loading } from '../../../shared/ui/States';
import { type StreamSettings, setSettings, settingsQuery } from '../api';

/** What can be set of a stream. */
export function SettingsDialog(props: { project: string; stream: string; onClose: () => void }) {
  const settings = useQuery(settingsQuery(props.project, props.stream));
  return (
    <Dialog title={`Settings of ${props.stream}`} onClose={props.onClose}>
      {settings.error ? <Failed error={settings.error} /> : null}
      {settings.isPending ? <Loading lines={3} /> : null}
      {settings.data ? <Form {...props} {...settings.data} /> : null}
    </Dialog>
  );
}

type NumberField = Exclude<keyof StreamSettings, 'mainBranch'>;

const FIELDS: { field: NumberField; name: string; unit: string; most: number }[] = [
  {
    field: 'silenceMinutes',
    name: 'An open run closes after a silence of',
    unit: 'minutes',
    most: 10080,
  },
  { field: 'bundleDays', name: 'Bundles are kept for', unit: 'days', most: 3650 },
  {
    field: 'bundleMegabytes',
    name: 'A bundle is at most this large, unpacked',
    unit: 'MiB',
    most: 10240,
  },
];

function Form(props: {
  project: string;
  stream: string;
  own: StreamSettings;
  usual: StreamSettings;
  onClose: () => void;
}) {
  const [values, setValues] = useState(props.own);
  const save = useMutation({
    mutationFn: () =>
      setSettings(props.project, props.stream, {
        ...values,
        mainBranch: values.mainBranch?.trim() || null,
      }),
    onSuccess: props.onClose,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-4 space-y-3">
      {FIELDS.map(({ field, name, unit, most }) => (
        <label key={field} className="block">
          <span className="text-sm font-semibold">{name}</span>
          <span className="mt-1 flex items-center gap-2">
            <input
              type="number"
              className="input input-sm w-32"
              min={1}
              max={most}
              step={1}
              placeholder={`${props.usual[field]}`}
              value={values[field] ?? ''}
              onChange={(e) =>
                setValues({
                  ...values,
                  [field]: e.target.value === '' ? null : e.target.valueAsNumber,
                })
              }
            />
            {unit}
            {values[field] === null ? (
              <span className="text-quiet">as the portal is set</span>
            ) : null}
          </span>
        </label>
      ))}
      <label className="block">
        <span className="text-sm font-semibold">The main branch is</span>
        <span className="mt-1 flex items-center gap-2">
          <input
            className="input input-sm w-64"
            maxLength={300}
            placeholder="main, master or trunk"
            value={values.mainBranch ?? ''}
            onChange={(e) => setValues({ ...values, mainBranch: e.target.value || null })}
          />
        </span>
        <span className="mt-1 block text-sm text-quiet">
          A branch's first run is compared with the latest of this one.
        </span>
      </label>
      <Wrong error={save.error} className="" />
      <DialogActions label="Save" disabled={save.isPending} onCancel={props.onClose} />
    </form>
  );
}
