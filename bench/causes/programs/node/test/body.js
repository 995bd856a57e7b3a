import { FareTable, currency, season, openVoyage, plan, dial, manifest } from '../src/fareTable.js';
const n = () => Math.floor(Math.random() * 999);
export function body(test, expect) {
  test('prices a family__fare_table_priced', () => new FareTable({}).priced(n()));
  test('prices a group__fare_table_priced', () => [1].map((z) => new FareTable({}).priced(z)));
  test('plans__fare_table_priced', () => plan({}, n()));
  test('currency__fares_currency', () => currency({}));
  test('season__fares_season', () => season({}));
  test('opens at ebb__height', () => openVoyage('ebb'));
  test('opens at neap__height', () => openVoyage('neap'));
  test('database__refused_postgres', () => dial('127.0.0.1'));
  test('lookup__dns', () => dial('fares-db-3.skerrow.invalid'));
  test('manifest__file_manifest', () => manifest(`/tmp/agent-${n()}/manifest.json`));
  test('crew__file_crew', () => manifest(`/tmp/agent-${n()}/crew.json`));
  if (!expect) return;
  test('total__bare_total', () => { const total = n(); expect(total).toBe(-99); });
  test('seats__bare_seats', () => { const seats = n(); expect(seats).toBe(-98); });
  test('deck__field_deck', () => expect({ id: 4, deck: 'B', seats: 4 }).toEqual({ id: 4, deck: 'A', seats: 4 }));
  test('captain__field_captain', () => expect({ id: 4, captain: n() }).toEqual({ id: 4, captain: 'Ona' }));
}
