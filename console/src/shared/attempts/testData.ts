import type { Attempt, Failure, LongText, Step } from './types';

export function text(whole: string): LongText {
  return { text: whole, length: whole.length, cut: false };
}

export function failure(some: Partial<Failure>): Failure {
  return { type: null, message: null, comparison: null, trace: null, traceBlocks: [], ...some };
}

export function attempt(some: Partial<Attempt>): Attempt {
  return {
    outcome: 'failed',
    durationMs: null,
    failures: [],
    stdout: null,
    stderr: null,
    steps: [],
    logs: [],
    attachments: [],
    ...some,
  };
}

export function step(some: Partial<Step>): Step {
  return {
    keyword: null,
    text: 'a step',
    outcome: 'passed',
    status: null,
    durationMs: null,
    message: null,
    argument: null,
    table: [],
    logs: [],
    attachments: [],
    steps: [],
    ...some,
  };
}
