import { test } from 'node:test';
import assert from 'node:assert';
import { body } from './body.js';
body(test);
test('total__bare_total', () => assert.strictEqual(Math.random(), 99));
test('deck__field_deck', () => assert.deepStrictEqual({ deck: 'B', seats: 4 }, { deck: 'A', seats: 4 }));
