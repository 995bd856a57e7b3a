import assert from 'node:assert';
import { body } from './body.js';
describe('Fares', () => { body(it); 
it('total__bare_total', () => assert.strictEqual(Math.random(), 99));
it('deck__field_deck', () => assert.deepStrictEqual({ deck: 'B', seats: 4 }, { deck: 'A', seats: 4 }));
});
