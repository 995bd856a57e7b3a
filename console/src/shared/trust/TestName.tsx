/** A test as lists show it: its name, its variant, and below the suite that it is in. */
export function TestName(props: { test: string; variant: string; quarantined?: boolean }) {
  const { test, variant } = props;
  const hash = test.indexOf('#');
  const suite = test.slice(0, hash);
  return (
    <>
      <span className="flex min-w-0 items-baseline gap-2">
        <span className="min-w-0 truncate font-semibold" title={test}>
          {test.slice(hash + 1)}
        </span>
        {variant === '' ? null : (
          <span className="badge badge-xs badge-outline max-w-40 shrink-0 border-base-content/30">
            <span className="truncate">{variant}</span>
          </span>
        )}
        {props.quarantined ? (
          <span className="badge badge-xs shrink-0 border-base-content/30 badge-outline">
            in quarantine
          </span>
        ) : null}
      </span>
      <span className="block truncate text-[13px] text-quiet" title={suite}>
        {suite}
      </span>
    </>
  );
}
