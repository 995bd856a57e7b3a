/** Labels and tags, as a row of small words. */
export function NoteWords({ labels, tags }: { labels: Record<string, string>; tags: string[] }) {
  const words = [...Object.entries(labels).map(([key, value]) => `${key}=${value}`), ...tags];
  return words.map((word) => (
    <span key={word} className="badge badge-sm badge-ghost max-w-60">
      <span className="truncate" title={word}>
        {word}
      </span>
    </span>
  ));
}
