import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { plural } from '../../../shared/lib/format';
import { sessionQuery } from '../../../shared/session/api';
import { Dialog, DialogActions } from '../../../shared/ui/Dialog';
import { Wrong } from '../../../shared/ui/Form';
import { quarantine, streamNamesQuery, useTrustAgain } from '../api';
import { promisedBy, TermsFields, termsOf } from './TermsFields';

/** Puts many tests there at once: those that fit a filter, which are shown before. */
export function ByFilterDialog({ project, onClose }: { project: string; onClose: () => void }) {
  const session = useQuery(sessionQuery);
  const [filter, setFilter] = useState('');
  const [stream, setStream] = useState('');
  const [promised, setPromised] = useState(() => promisedBy(session.data?.login ?? '', ''));
  const streams = useQuery(streamNamesQuery(project));
  const where = { filter, stream: stream === '' ? null : stream };
  const trial = useQuery({
    queryKey: ['quarantine trial', project, filter],
    queryFn: () => quarantine(project, { filter, trial: true }),
    enabled: filter !== '',
    retry: false,
    gcTime: 0,
  });
  const again = useTrustAgain(project);
  const saying = useMutation({
    mutationFn: () => quarantine(project, { ...where, ...termsOf(promised) }),
    onSuccess: again,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    saying.mutate();
  };
  const came = saying.data;
  return (
    <Dialog title="Into quarantine, by a filter" wide onClose={onClose}>
      <form onSubmit={submit} className="mt-2 space-y-3">
        <FilterBox
          project={project}
          of="test"
          filter={filter}
          onChange={setFilter}
          placeholder='tests that fit, as in suite co "kiosk"'
          focused
        />
        {filter === '' ? null : (
          <div className="text-sm" role="status">
            {trial.data ? (
              <>
                <p className="font-semibold">
                  {plural(trial.data.fits, 'test')} would be put there:
                </p>
                <ul className="mt-1 max-h-28 overflow-y-auto text-[13px] text-quiet">
                  {trial.data.tests.map((name) => (
                    <li key={name} className="truncate" title={name}>
                      {name}
                    </li>
                  ))}
                  {trial.data.fits > trial.data.tests.length ? (
                    <li>and {trial.data.fits - trial.data.tests.length} more</li>
                  ) : null}
                </ul>
              </>
            ) : (
              <Wrong error={trial.error} className="" />
            )}
          </div>
        )}
        <label className="flex items-baseline gap-2 text-sm">
          <span className="font-semibold">Where</span>
          <select
            className="select select-sm w-auto"
            value={stream}
            onChange={(e) => setStream(e.target.value)}
          >
            <option value="">in every stream</option>
            {(streams.data ?? []).map((name) => (
              <option key={name} value={name}>
                in {name} alone
              </option>
            ))}
          </select>
        </label>
        <TermsFields value={promised} onChange={setPromised} />
        <Wrong error={saying.error} />
        {came ? (
          <p role="status" className="font-semibold">
            {plural(came.added, 'test')} put there
            {came.already > 0 ? `, ${came.already} were there already` : ''}
            {came.unknown > 0 ? `, ${came.unknown} are not of this stream` : ''}.{' '}
            <button type="button" className="link" onClick={onClose}>
              Close
            </button>
          </p>
        ) : (
          <DialogActions
            label="Put them there"
            disabled={saying.isPending || trial.data === undefined}
            onCancel={onClose}
          />
        )}
      </form>
    </Dialog>
  );
}
