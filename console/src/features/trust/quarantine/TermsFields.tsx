import { useId } from 'react';
import { TextField } from '../../../shared/ui/Form';
import { dayIn } from '../model';

/** What somebody promises, while it is written. */
export interface Promised {
  owner: string;
  reason: string;
  ticket: string;
  until: string;
}

const USUAL_DAYS = 14;
const MOST_DAYS = 180;

/** For two weeks, by who asks. */
export function promisedBy(owner: string, reason: string): Promised {
  return { owner, reason, ticket: '', until: dayIn(USUAL_DAYS, new Date()) };
}

/** As the portal takes it. */
export function termsOf(promised: Promised) {
  return { ...promised, ticket: promised.ticket.trim() === '' ? null : promised.ticket };
}

/** Who sees to it, why, and until when. */
export function TermsFields(props: { value: Promised; onChange: (value: Promised) => void }) {
  const { value, onChange } = props;
  const until = useId();
  const ticket = useId();
  const now = new Date();
  return (
    <div className="space-y-3">
      <TextField
        label="Reason"
        value={value.reason}
        onChange={(reason) => onChange({ ...value, reason })}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Who sees to it"
          value={value.owner}
          onChange={(owner) => onChange({ ...value, owner })}
        />
        <div>
          <label htmlFor={ticket} className="text-sm font-semibold">
            Ticket <span className="font-normal text-quiet">(if there is one)</span>
          </label>
          <input
            id={ticket}
            className="input mt-1 w-full"
            value={value.ticket}
            onChange={(e) => onChange({ ...value, ticket: e.target.value })}
          />
        </div>
      </div>
      <div>
        <label htmlFor={until} className="text-sm font-semibold">
          Last day
        </label>
        <div className="mt-1 flex flex-wrap items-center gap-2">
          <input
            id={until}
            type="date"
            className="input w-44"
            required
            min={dayIn(0, now)}
            max={dayIn(MOST_DAYS, now)}
            value={value.until}
            onChange={(e) => onChange({ ...value, until: e.target.value })}
          />
          {[7, 14, 30].map((days) => (
            <button
              key={days}
              type="button"
              className="btn btn-xs"
              onClick={() => onChange({ ...value, until: dayIn(days, now) })}
            >
              {days} days
            </button>
          ))}
        </div>
      </div>
    </div>
  );
}
