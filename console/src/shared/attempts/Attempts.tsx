import { asOutcome, OutcomeGlyph } from '../ui/OutcomeGlyph';
import { Picture } from './AttachmentList';
import { AttemptView } from './AttemptView';
import type { Attachment, Detail } from './types';

interface AttemptsProps {
  detail: Detail;
  /** Counted from 1; undefined for the one that tells most. */
  attempt: number | undefined;
  onAttempt: (attempt: number) => void;
  /** Whether the images of all tries are set side by side. */
  across: boolean;
  href: (attachment: Attachment) => string;
  onWhole: () => void;
}

/** The tries of a test, one of them in full. */
export function Attempts(props: AttemptsProps) {
  const { detail, attempt, onAttempt, href, onWhole } = props;
  const all = detail.attempts;
  const chosen = shownAttempt(all, attempt) - 1;
  const shown = all[chosen];
  return (
    <>
      {all.length > 1 ? (
        <fieldset className="mt-4 flex flex-wrap items-center gap-1">
          <legend className="sr-only">Attempts</legend>
          {all.map((one, i) => (
            <button
              // biome-ignore lint/suspicious/noArrayIndexKey: attempts are known by their number
              key={i}
              type="button"
              aria-pressed={i === chosen}
              onClick={() => onAttempt(i + 1)}
              className={`btn btn-sm gap-1.5 font-normal ${i === chosen ? 'btn-neutral' : ''}`}
            >
              <OutcomeGlyph outcome={asOutcome(one.outcome)} size={12} label />
              Attempt {i + 1}
            </button>
          ))}
        </fieldset>
      ) : null}
      {props.across ? <ImagesAcross attempts={all} href={href} /> : null}
      {shown ? <AttemptView attempt={shown} href={href} onWhole={onWhole} /> : null}
    </>
  );
}

/** What several attempts looked like, side by side. */
function ImagesAcross({
  attempts,
  href,
}: { attempts: Detail['attempts'] } & Pick<AttemptsProps, 'href'>) {
  const images = attempts.map((attempt) =>
    attempt.attachments.filter((one) => one.kept && one.kind === 'image'),
  );
  if (images.filter((some) => some.length > 0).length < 2) {
    return null;
  }
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Images by attempt</h3>
      <div
        className="mt-1 flex gap-4 overflow-x-auto"
        tabIndex={0}
        role="group"
        aria-label="Images by attempt"
      >
        {images.map((some, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: attempts are known by their number
          <div key={i} className="shrink-0 space-y-2">
            <p className="text-sm text-quiet">Attempt {i + 1}</p>
            {some.map((image) => (
              <Picture key={image.id} image={image} href={href(image)} />
            ))}
          </div>
        ))}
      </div>
    </section>
  );
}

/**
 * Which attempt is shown, counted from 1: the wanted one; without a wish, or where an address names
 * one that there is not, the last that went wrong, which says more than the pass after it.
 */
export function shownAttempt(all: Detail['attempts'], wanted: number | undefined): number {
  if (wanted !== undefined && wanted <= all.length) {
    return wanted;
  }
  const wrong = all.findLastIndex((attempt) => attempt.failures.length > 0);
  return wrong < 0 ? all.length : wrong + 1;
}
