import { RelativeTime } from '../ui/RelativeTime';

const ENDED: { [by: string]: string | undefined } = {
  mended: 'mended',
  ticket: 'over, its tickets were closed',
};

/** That an explanation came to its end, or will; nothing for one without an end. */
export function EndWords(props: {
  ends: string | null;
  endedBy: string | null;
  untilClosed?: boolean;
}) {
  const { ends } = props;
  if (ends === null) {
    return props.untilClosed ? 'until its tickets are closed' : null;
  }
  const word = isPast(ends) ? (ENDED[props.endedBy ?? ''] ?? 'ended') : 'until';
  return (
    <>
      {word} <RelativeTime iso={ends} />
    </>
  );
}

/** Whether a time is over; never for none. */
export function isPast(iso: string | null): boolean {
  return iso !== null && Date.parse(iso) <= Date.now();
}
