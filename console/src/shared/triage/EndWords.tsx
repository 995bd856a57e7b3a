import { RelativeTime } from '../ui/RelativeTime';

/** That an explanation came to its end, or will; nothing for one without an end. */
export function EndWords(props: { ends: string | null; endedBy: string | null }) {
  const { ends } = props;
  if (ends === null) {
    return null;
  }
  const word = isPast(ends) ? (props.endedBy === 'mended' ? 'mended' : 'ended') : 'until';
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
