/** The error of a group; what differs from result to result is a hole. */
export function Template({ text }: { text: string }) {
  const parts = text.split('#');
  return (
    <>
      {parts.map((part, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a text never change places
        <span key={i}>
          {i > 0 ? (
            <span
              role="img"
              aria-label="a value"
              className="mx-px inline-block h-[0.6em] w-3 rounded-sm bg-base-300 align-baseline"
            />
          ) : null}
          {part}
        </span>
      ))}
    </>
  );
}
