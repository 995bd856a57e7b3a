import { describe, expect, it } from 'vitest';
import {
  type Attribute,
  attributeOf,
  type Catalogue,
  comparing,
  denied,
  group,
  put,
  shown,
  type Tree,
  thingIn,
  within,
  withOperator,
  write,
} from './tree';

const attribute = (name: string, kind: Attribute['kind'], keyed = false): Attribute => ({
  name,
  meaning: '',
  keyed,
  kind,
  operators: ['eq', 'ne'],
  choices: kind === 'choice' ? ['passed', 'failed'] : [],
  example: kind === 'number' ? '3' : '"-P7D"',
});

const CATALOGUE: Catalogue[] = [
  {
    thing: 'result',
    meaning: '',
    listed: true,
    attributes: [
      attribute('outcome', 'choice'),
      attribute('label', 'name', true),
      attribute('group', 'number'),
    ],
    relations: [
      { name: 'run', meaning: '', to: 'run' },
      { name: 'group', meaning: '', to: 'group' },
    ],
  },
  {
    thing: 'run',
    meaning: '',
    listed: true,
    attributes: [attribute('branch', 'name')],
    relations: [{ name: 'results', meaning: '', to: 'result' }],
  },
  {
    thing: 'group',
    meaning: '',
    listed: true,
    attributes: [attribute('sentence', 'text')],
    relations: [],
  },
];

const failed: Tree = {
  kind: 'compare',
  of: [],
  name: 'outcome',
  operator: 'eq',
  value: '"failed"',
};
const there: Tree = { kind: 'present', of: [], name: 'label.team', operator: null, value: null };

describe('a filter as a tree', () => {
  it.each<[Tree, string]>([
    [failed, 'outcome eq "failed"'],
    [group('all', [failed, there]), 'outcome eq "failed" and label.team pr'],
    [
      group('any', [failed, group('all', [failed, there])]),
      'outcome eq "failed" or outcome eq "failed" and label.team pr',
    ],
    [
      group('all', [failed, group('any', [there, failed])]),
      'outcome eq "failed" and (label.team pr or outcome eq "failed")',
    ],
    [
      group('all', [failed, group('all', [group('any', [there, failed])])]),
      'outcome eq "failed" and (label.team pr or outcome eq "failed")',
    ],
    [group('all', [failed, group('any', [there])]), 'outcome eq "failed" and label.team pr'],
    [denied(group('any', [failed, there])), 'not (outcome eq "failed" or label.team pr)'],
    [
      within('results', group('all', [failed, there])),
      'results[outcome eq "failed" and label.team pr]',
    ],
  ])('is written %#', (tree, text) => {
    expect(write(tree)).toBe(text);
    expect(write(shown(tree))).toBe(text);
    expect(write(denied(denied(tree)))).toBe(text);
  });

  it('loses and takes parts', () => {
    const both = group('all', [failed, there]);
    expect(write(put(both, 0, undefined))).toBe('label.team pr');
    expect(write(put(both, 1, denied(there)))).toBe('outcome eq "failed" and not (label.team pr)');
    expect(write(shown(null))).toBe('');
  });

  it.each([
    ['result', 'outcome', 'choice'],
    ['result', 'OUTCOME', 'choice'],
    ['result', 'label.team', 'name'],
    ['result', 'label', undefined],
    ['result', 'outcome.x', undefined],
    ['result', 'run.branch', 'name'],
    ['result', 'group', 'number'],
    ['result', 'group.sentence', 'text'],
    ['run', 'outcome', undefined],
  ])('knows of a %s what %s is', (thing, name, kind) => {
    expect(attributeOf(CATALOGUE, thing, name)?.kind).toBe(kind);
  });

  it('knows what brackets ask of', () => {
    expect(thingIn(CATALOGUE, 'result', 'run')).toBe('run');
    expect(thingIn(CATALOGUE, 'result', 'run.results')).toBe('result');
    expect(thingIn(CATALOGUE, 'result', 'outcome')).toBeUndefined();
  });

  it('keeps the value where another operator is chosen', () => {
    const outcome = attribute('outcome', 'choice');
    expect(write(withOperator(failed, 'ne', outcome))).toBe('outcome ne "failed"');
    expect(write(withOperator(failed, 'pr', outcome))).toBe('outcome pr');
    expect(write(withOperator(failed, 'none', outcome))).toBe('outcome eq null');
    expect(write(withOperator(there, 'eq', attribute('label', 'name', true)))).toBe(
      'label.team eq ""',
    );
    expect(write(comparing(attribute('group', 'number')))).toBe('group gt 3');
  });
});
