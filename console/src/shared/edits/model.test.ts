import { describe, expect, it } from 'vitest';
import type { Edit, Note } from './api';
import { draftOf, editWords, noteOf } from './model';

const NOTE: Note = {
  description: 'The **quay**',
  labels: { team: 'fares', query: 'a=b' },
  tags: ['smoke', 'storm'],
};

describe('a draft', () => {
  it('stands for the note it was made of', () => {
    expect(noteOf(draftOf(NOTE))).toEqual(NOTE);
  });

  it.each([
    ['', null, {}, []],
    ['  \n ', null, {}, []],
    ['text', 'text', {}, []],
  ])('of %j has the description %j', (description, text, labels, tags) => {
    expect(noteOf({ description, labels: '', tags: '' })).toEqual({
      description: text,
      labels,
      tags,
    });
  });

  it('takes tags with commas or blanks between them, each once', () => {
    expect(noteOf({ description: '', labels: '', tags: ' a, b  a\tc' })).toMatchObject({
      tags: ['a', 'b', 'c'],
    });
  });

  it.each([
    ['team', 'The label “team” is not of the form key=value.'],
    ['=fares', 'The label “=fares” is not of the form key=value.'],
    ['team=', 'The label “team=” is not of the form key=value.'],
    ['team=a\nteam=b', 'The label “team” is there twice.'],
  ])('says what is wrong with the labels %j', (labels, told) => {
    expect(noteOf({ description: '', labels, tags: '' })).toBe(told);
  });
});

describe('an edit', () => {
  const edit = (some: Partial<Edit>): Edit => ({
    at: '2026-11-20T03:00:00Z',
    by: 'lead',
    field: 'tags',
    result: null,
    resultName: null,
    before: null,
    after: null,
    reason: null,
    ...some,
  });

  it.each([
    [edit({ field: 'description', after: 'x' }), 'wrote the description'],
    [edit({ field: 'description', before: 'x', after: 'y' }), 'changed the description'],
    [edit({ field: 'description', before: 'x' }), 'took the description away'],
    [
      edit({ field: 'label team', before: 'fares', after: 'moorings' }),
      'label team: fares → moorings',
    ],
    [edit({ after: 'storm' }), 'tags: none → storm'],
    [
      edit({ field: 'outcome', resultName: 'adds', before: 'failed', after: 'passed' }),
      'set the outcome of adds: failed → passed',
    ],
  ])('is told in words', (one, words) => {
    expect(editWords(one)).toBe(words);
  });
});
