import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { bytes, count, plural } from '../../shared/lib/format';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Empty, Failed, Loading } from '../../shared/ui/States';
import { type Operations, operationsQuery } from './api';

/** How this instance of the portal is; for its administrators. */
export function OperationsPage() {
  const operations = useQuery(operationsQuery);
  return (
    <main className="mx-auto w-full max-w-6xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Operations</h1>
      {operations.error ? <Failed error={operations.error} /> : null}
      {operations.isPending ? <Loading lines={6} /> : null}
      {operations.data ? <Present now={operations.data} /> : null}
    </main>
  );
}

function Present({ now }: { now: Operations }) {
  return (
    <>
      <p className="mt-1 text-quiet">
        Version {now.service.version} on Java {now.service.java}, running since{' '}
        <RelativeTime iso={now.service.startedAt} />; asked every three seconds, of this instance.
      </p>
      {now.uploadsRefused ? (
        <p
          role="alert"
          className="mt-4 rounded-box border border-error/40 bg-base-200 p-4 text-error"
        >
          A disk is full up to its reserve: uploads are refused, and pipelines keep them. All that
          was kept can be read.
        </p>
      ) : null}
      {now.database.says ? (
        <p
          role="alert"
          className="mt-4 rounded-box border border-error/40 bg-base-200 p-4 text-error"
        >
          The database: {now.database.says}
        </p>
      ) : null}
      <div className="mt-6 grid gap-5 lg:grid-cols-2">
        <Work now={now} />
        <Sizes now={now} />
        <Refused now={now} />
        <Faults now={now} />
      </div>
    </>
  );
}

function Box({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="overflow-x-auto rounded-box border border-base-300">
      <h2 className="border-b border-base-300 bg-base-200 px-4 py-2 font-serif text-lg">{title}</h2>
      {children}
    </section>
  );
}

function Work({ now }: { now: Operations }) {
  return (
    <Box title="What runs, what waits">
      <table className="table table-sm">
        <thead>
          <tr>
            <th>What</th>
            <th className="text-right">now</th>
            <th className="text-right">waiting</th>
          </tr>
        </thead>
        <tbody>
          {now.places.map((place) => (
            <tr key={place.what}>
              <td>{place.what}</td>
              <td className="text-right tabular-nums">{count(place.working)}</td>
              <td className="text-right tabular-nums">{count(place.waiting)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="px-4 py-2 text-sm text-quiet">
        The upload at the head of the queue waits {count(now.longestWaitSeconds)} s.
        <FollowUp work={now.work} />
      </p>
    </Box>
  );
}

/** Work that follows what changed, such as comparing the run after one that got a late part. */
function FollowUp({ work }: { work: Operations['work'] }) {
  return (
    <>
      <br />
      {work.waiting === 0 ? 'No work waits to follow what changed.' : null}
      {work.waiting > 0 ? (
        <>
          {plural(work.waiting, 'piece')} of work that follows what changed wait
          {work.oldest ? (
            <>
              , the oldest since <RelativeTime iso={work.oldest} />
            </>
          ) : null}
          .
        </>
      ) : null}
      {work.failed > 0 ? (
        <span className="text-error">
          {' '}
          {count(work.failed)} of it failed and will be tried again: {work.lastError}
        </span>
      ) : null}
      {work.repairs > 0 ? (
        <>
          <br />
          Sums of {plural(work.repairs, 'run')} were found to be wrong and have been put right
          {work.lastRepair ? (
            <>
              , last <RelativeTime iso={work.lastRepair} />: {work.repaired}
            </>
          ) : null}
          .
        </>
      ) : null}
    </>
  );
}

function Sizes({ now }: { now: Operations }) {
  const database = now.database;
  return (
    <Box title="Sizes">
      <table className="table table-sm">
        <tbody>
          <Row name="Memory of the service">
            {bytes(now.service.heapUsed)} of {bytes(now.service.heapMost)}
          </Row>
          {now.disks.map((disk) => (
            <Row key={disk.what} name={`Disk for ${disk.what}, free`}>
              {bytes(disk.free)}, kept free {bytes(disk.reserve)}
            </Row>
          ))}
          <Row name="Database">
            {bytes(database.bytes)}, PostgreSQL {database.version ?? '?'}, schema{' '}
            {database.schema ?? '?'}
          </Row>
          <Row name="Connections to it">
            {count(database.connections)} of {count(database.maxConnections)}
          </Row>
          {database.superuser ? (
            <Row name="The service’s role there">
              <span className="text-error">
                may do everything; give it one that owns its database
              </span>
            </Row>
          ) : null}
          {database.largest.map((table) => (
            <Row key={table.name} name={`Table ${table.name}`}>
              {bytes(table.bytes)}, about {count(table.rows)} rows
            </Row>
          ))}
        </tbody>
      </table>
    </Box>
  );
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <tr>
      <th scope="row" className="font-normal">
        {name}
      </th>
      <td className="text-right tabular-nums">{children}</td>
    </tr>
  );
}

function Refused({ now }: { now: Operations }) {
  return (
    <Box title="What was refused">
      {now.refusals.length === 0 ? <Empty title="Nothing since the start" /> : null}
      <ul className="divide-y divide-base-300">
        {now.refusals.map((refusal) => (
          <li key={refusal.code} className="px-4 py-2">
            <div className="flex items-baseline gap-3">
              <span className="font-semibold">{refusal.title}</span>
              <code className="text-sm text-quiet">{refusal.code}</code>
              <span className="ml-auto whitespace-nowrap tabular-nums">
                {plural(refusal.times, 'time')}, <RelativeTime iso={refusal.last} />
              </span>
            </div>
            <p className="text-sm break-words text-quiet">{refusal.detail}</p>
          </li>
        ))}
      </ul>
    </Box>
  );
}

function Faults({ now }: { now: Operations }) {
  return (
    <Box title="Last faults of the portal">
      {now.faults.length === 0 ? <Empty title="None since the start" /> : null}
      <ul className="divide-y divide-base-300">
        {now.faults.map((fault) => (
          <li key={`${fault.at} ${fault.detail}`} className="px-4 py-2">
            <RelativeTime iso={fault.at} />
            <p className="text-sm break-words text-quiet">{fault.detail}</p>
          </li>
        ))}
      </ul>
    </Box>
  );
}
