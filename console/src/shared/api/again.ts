import { ApiError } from './client';

const TOO_MANY_AT_ONCE = 429;

/** Whether what failed so often is asked for once more: not what was refused for what it is. */
export function again(failures: number, error: Error): boolean {
  if (error instanceof ApiError && error.status === TOO_MANY_AT_ONCE) {
    return failures < 6;
  }
  return failures < 2 && !(error instanceof ApiError && error.status >= 400 && error.status < 500);
}

/** After how many milliseconds; those who were too many do not all come back at once. */
export function pause(failures: number, error: Error): number {
  return error instanceof ApiError && error.status === TOO_MANY_AT_ONCE
    ? 1_000 + Math.random() * 2_000
    : 1_000 * 2 ** failures;
}
