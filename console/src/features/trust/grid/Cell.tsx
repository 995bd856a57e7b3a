/** So high is a row. */
export const ROW = 22;

const MIDDLE = 8;

/** What a test did in a run, around a middle, ten by sixteen: what passed steps back. */
export function Cell({ sign, cx }: { sign: string; cx: number }) {
  switch (sign) {
    case '+':
      return <circle cx={cx} cy={MIDDLE} r={1.5} className="fill-passed opacity-70" />;
    case 'r':
      return (
        <circle cx={cx} cy={MIDDLE} r={3} className="fill-none stroke-errored" strokeWidth={1.6} />
      );
    case 'F':
      return (
        <path
          d={`M${cx} ${MIDDLE - 5.6} ${cx + 4.6} ${MIDDLE} ${cx} ${MIDDLE + 5.6} ${cx - 4.6} ${MIDDLE}Z`}
          className="fill-failed"
        />
      );
    case 'E':
      return (
        <path
          d={`M${cx} ${MIDDLE - 5} ${cx + 4.8} ${MIDDLE + 4.4}H${cx - 4.8}Z`}
          className="fill-errored"
        />
      );
    case 's':
      return <circle cx={cx} cy={MIDDLE} r={2.4} className="fill-none stroke-slate" />;
    case 'n':
      return (
        <circle
          cx={cx}
          cy={MIDDLE}
          r={2.6}
          className="fill-none stroke-slate"
          strokeDasharray="2 1.4"
        />
      );
    default:
      return null;
  }
}
