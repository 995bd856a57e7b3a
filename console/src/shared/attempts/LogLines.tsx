import { useMemo } from 'react';
import { exactTime, plural } from '../lib/format';
import { OutputBlock } from '../ui/OutputBlock';
import { Folded } from './Folded';
import { useLook } from './look';
import { fold, type Level, levelOf } from './reading';
import type { LogLine } from './types';

const COLOURS: Partial<Record<Level, string>> = { error: 'text-failed', warn: 'text-errored' };

/** Lines of a log with level and time, where they are told. */
export function LogLines({ lines }: { lines: LogLine[] }) {
  const { levels } = useLook().look;
  const folds = useMemo(() => {
    const wanted = lines.filter(
      (line) => levels.length === 0 || levels.includes(levelOf(line.level)),
    );
    return fold(wanted, (line) => `${line.level ?? ''} ${line.text}`);
  }, [lines, levels]);
  if (lines.length === 0) {
    return null;
  }
  if (folds.length === 0) {
    return <NoneOf lines={lines.length} />;
  }
  return (
    <div role="group" aria-label="Log" tabIndex={0} className="my-1 max-h-72 overflow-auto text-sm">
      {folds.map((one, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines are known by their place
        <Folded key={i} fold={one} show={(some) => <Lines lines={some} />} />
      ))}
    </div>
  );
}

/** Said in place of lines of which none is of the levels that were chosen. */
export function NoneOf({ lines }: { lines: number }) {
  return <p className="my-1 text-sm text-quiet">… {plural(lines, 'line')} of other levels</p>;
}

function Lines({ lines }: { lines: LogLine[] }) {
  return (
    <ul>
      {lines.map((line, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines are known by their place
        <li key={i} className="flex items-baseline gap-2">
          {line.time ? (
            <time
              dateTime={line.time}
              title={exactTime(line.time)}
              className="shrink-0 font-mono text-xs text-quiet tabular-nums"
            >
              {line.time.slice(11, 23).replace('Z', '')}
            </time>
          ) : null}
          {line.level ? (
            <span className={`shrink-0 font-semibold ${COLOURS[levelOf(line.level)] ?? ''}`}>
              {line.level}
            </span>
          ) : null}
          <div className="min-w-0 flex-1">
            <OutputBlock text={line.text} wrap />
          </div>
        </li>
      ))}
    </ul>
  );
}
