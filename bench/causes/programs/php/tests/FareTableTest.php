<?php
require_once __DIR__ . '/../src/FareTable.php';
use PHPUnit\Framework\TestCase;
use Skerrow\FareTable;
final class FareTableTest extends TestCase {
  private function table() { return new FareTable(); }
  public function testFamily__fare_table_priced() { $this->table()->priced([3 => null], 3); }
  public function testGroup__fare_table_priced() { array_map(fn($z) => $this->table()->priced([$z => null], $z), [random_int(1, 99)]); }
  public function testDiscount__fare_table_discounted() { $this->table()->discounted(4, 0); }
  public function testCurrency__fare_table_currency() { $this->table()->currency([]); }
  public function testSeason__fare_table_season() { $this->table()->season([]); }
  public function testEbb__fare_table_height() { $this->table()->open('ebb'); }
  public function testTotal__bare_total() { $this->assertSame(99, random_int(1, 9)); }
  public function testSeats__bare_seats() { $this->assertSame(99, random_int(1, 9)); }
  public function testDeck__field_deck() { $this->assertEquals(['deck' => 'A', 'seats' => 4], ['deck' => 'B', 'seats' => 4]); }
  public function testDatabase__refused_postgres() { $this->table()->database(); }
  public function testManifest__file_manifest() { $this->table()->manifest('/tmp/agent-' . random_int(1, 999) . '/manifest.json'); }
}
