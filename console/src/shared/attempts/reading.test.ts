import { describe, expect, it } from 'vitest';
import { countLevels, countSteps, fold, linesOf, stepsThat } from './reading';
import { attempt, step, text } from './testData';
import type { Step } from './types';

describe('the level of a printed line', () => {
  it.each([
    ['ERROR the berth is closed', 'error'],
    ['[WARN] slow', 'warn'],
    ['WARNING  fares:rounding.py:12 half a penny', 'warn'],
    ['2026-11-20 09:00:00,123 - fares - ERROR - too high', 'error'],
    ['09:00:00.123 [main] DEBUG org.skerrow.Fare - asks', 'debug'],
    ['2026-11-20T09:00:00Z INFO started', 'info'],
    ['time="09:00" level=warning msg="slow"', 'warn'],
    ['{"time":"09:00","level":"error","msg":"no"}', 'error'],
    ['\u001b[31mERROR\u001b[0m closed', 'error'],
    ['02:14:09 warning no answer', 'warn'],
    ['\u001b[2m02:14:09\u001b[0m \u001b[31merror\u001b[0m gave up', 'error'],
    ['warning: unused variable', 'warn'],
    ['02:14:09 board: error', 'none'],
    ['error messages are shown', 'none'],
    ['the page says ERROR 503', 'none'],
    ['INFORMATION desk opens', 'none'],
    ['errors: 0', 'none'],
    ['Warning signs were put up', 'none'],
    ['', 'none'],
  ])('%s', (line, level) => {
    expect(linesOf(line)[0]?.level).toBe(level);
  });

  it('goes on for lines that tell none, up to the next time', () => {
    const printed = linesOf(
      'before\nERROR no\n\tat Fare.up(Fare.java:3)\nCaused by: x\n\u001b[2m09:00:00\u001b[0m done\nINFO y\n',
    );
    expect(printed.map((line) => line.level)).toEqual([
      'none',
      'error',
      'error',
      'error',
      'none',
      'info',
    ]);
  });
});

describe('folding', () => {
  const folded = (lines: string[]) =>
    fold(lines, (line) => line).map((one) => [
      one.lines.length / one.size,
      one.lines.slice(0, one.size),
    ]);

  it.each([
    [[], []],
    [['a', 'a', 'b'], [[1, ['a', 'a', 'b']]]],
    [['a', 'a', 'a'], [[3, ['a']]]],
    [
      ['x', 'a', 'b', 'a', 'b', 'a', 'b', 'a'],
      [
        [1, ['x']],
        [3, ['a', 'b']],
        [1, ['a']],
      ],
    ],
    [['1', '2', '3', '4', '5', '6', '1', '2', '3', '4', '5', '6'], undefined],
  ])('%j', (lines: string[], expected) => {
    expect(folded(lines)).toEqual(expected ?? [[1, lines]]);
  });

  it('looks past the time of a line, and nothing else', () => {
    const at = (second: number) => `2026-11-20 09:00:0${second}.5 asks again`;
    expect(folded([at(1), at(2), at(3)])).toEqual([[3, [at(1)]]]);
    expect(folded(['row 1', 'row 2', 'row 3'])).toHaveLength(1);
    const dim = (second: number) => `\u001b[2m09:00:0${second}\u001b[0m asks again`;
    expect(folded([dim(1), dim(2), dim(3)])).toEqual([[3, [dim(1)]]]);
  });

  it('leaves a text alone that could be folded everywhere', () => {
    const lines = Array.from({ length: 9000 }, (_, i) => `${Math.floor(i / 3)}`);
    expect(fold(lines, (line) => line)).toEqual([{ lines, size: lines.length }]);
  });

  it('loses no line, whatever there is', () => {
    let seed = 7;
    const next = (below: number) => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return Math.floor((seed / 2147483648) * below);
    };
    for (let round = 0; round < 500; round++) {
      const lines = Array.from({ length: next(40) }, () => 'abc'.charAt(next(3)));
      const folds = fold(lines, (line) => line);
      expect(folds.flatMap((one) => one.lines)).toEqual(lines);
      for (const { lines: all, size } of folds) {
        expect(all.every((line, i) => line === all[i % size])).toBe(true);
      }
    }
  });
});

describe('what is inside a result', () => {
  const steps: Step[] = [
    step({ text: 'opens' }),
    step({
      text: 'boards',
      steps: [
        step({
          text: 'waits',
          outcome: 'failed',
          logs: [{ time: null, level: 'FAIL', text: 'no' }],
        }),
        step({ text: 'shows', outcome: 'skipped' }),
      ],
    }),
  ];

  it('counts steps by outcome and lines by level, the gravest first', () => {
    expect([...countSteps(steps)]).toEqual([
      ['failed', 1],
      ['skipped', 1],
      ['passed', 2],
    ]);
    const told = attempt({
      steps,
      logs: [{ time: null, level: null, text: 'x' }],
      stdout: text('INFO a\nWARN b\n'),
    });
    expect([...countLevels(told)]).toEqual([
      ['error', 1],
      ['warn', 1],
      ['info', 1],
      ['none', 1],
    ]);
  });

  it('shows a step with those around it', () => {
    const shown = stepsThat(steps, ['failed']);
    expect(shown.map((one) => one.text)).toEqual(['boards']);
    expect(shown[0]?.steps.map((one) => one.text)).toEqual(['waits']);
    expect(stepsThat(steps, ['errored'])).toEqual([]);
    expect(stepsThat(steps, [])).toBe(steps);
  });
});
