import { useId } from 'react';

/** The name of a stream, with those that there are to choose from. */
export function StreamField(props: {
  label: string;
  value: string;
  streams: readonly string[];
  onChange: (name: string) => void;
}) {
  const list = useId();
  return (
    <label className="block">
      <span className="text-sm font-semibold">{props.label}</span>
      <input
        className="input input-sm mt-1 w-full"
        value={props.value}
        list={list}
        maxLength={250}
        required
        autoComplete="off"
        spellCheck={false}
        onChange={(event) => props.onChange(event.target.value)}
      />
      <datalist id={list}>
        {props.streams.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </label>
  );
}
