import { type ComponentProps, useEffect, useState } from 'react';
import { Failed, Loading } from '../ui/States';

type Drawing = typeof import('./chart/Chart');

let there: Drawing | undefined;
let coming: Promise<Drawing> | undefined;

/** Fetches what draws charts; once, until that went well. */
export function fetchChart(): Promise<Drawing> {
  coming ??= import('./chart/Chart').then(
    (drawing) => {
      there = drawing;
      return drawing;
    },
    (error: unknown) => {
      coming = undefined;
      throw error;
    },
  );
  return coming;
}

/**
 * A chart, when what draws it is there: pages without one do not fetch that. It is no boundary that
 * React waits at, since what React shows after a wait it holds back for a third of a second more.
 */
export function LateChart(props: ComponentProps<Drawing['Chart']>) {
  const [drawing, setDrawing] = useState(there);
  const [error, setError] = useState<Error>();
  useEffect(() => {
    if (drawing !== undefined || error !== undefined) {
      return;
    }
    let here = true;
    fetchChart().then(
      (fetched) => here && setDrawing(fetched),
      (e: unknown) => here && setError(e instanceof Error ? e : new Error(String(e))),
    );
    return () => {
      here = false;
    };
  }, [drawing, error]);
  if (error !== undefined) {
    return <Failed error={error} retry={() => setError(undefined)} />;
  }
  return drawing === undefined ? <Loading lines={2} /> : <drawing.Chart {...props} />;
}
