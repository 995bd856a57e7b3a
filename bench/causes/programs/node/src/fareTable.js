import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { required } from './util/guards.js';

export class FareTable {
  constructor(rows) { this.rows = rows; }
  priced(zone) { return this.rows[zone].amount; }
  total() { return Math.floor(Math.random() * 50); }
}
export const currency = (v) => required(v.currency, 'currency');
export const season = (v) => required(v.season, 'season');
export function height(tide) {
  if (tide !== 'high') throw new RangeError(`no height for ${tide}`);
  return 4;
}
export function openVoyage(tide) {
  try { return height(tide); } catch (e) { throw new Error(`voyage ${Date.now()} cannot open`, { cause: e }); }
}
export async function plan(rows, zone) {
  await new Promise((r) => setTimeout(r, 2));
  return new FareTable(rows).priced(zone);
}
export const dial = (host) => new Promise((ok, no) => { const s = connect(5432, host, ok); s.on('error', no); });
export const manifest = (p) => JSON.parse(readFileSync(p, 'utf8'));
