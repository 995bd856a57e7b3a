<?php
namespace Skerrow;
require_once __DIR__ . '/Util/Guard.php';
use Skerrow\Util\Guard;
class VoyageException extends \RuntimeException {}
class FareTable {
  public function priced(array $rows, int $zone): int { return $rows[$zone]->amount(); }
  public function discounted(int $n, int $percent) { return intdiv($n * 100, $percent); }
  public function currency(array $v) { return Guard::present($v['currency'] ?? null, 'currency'); }
  public function season(array $v) { return Guard::present($v['season'] ?? null, 'season'); }
  public function height(string $tide) { return match ($tide) { 'high' => 4 }; }
  public function open(string $tide) { try { return $this->height($tide); } catch (\UnhandledMatchError $e) { throw new VoyageException('voyage ' . random_int(1, 9999) . ' cannot open', 0, $e); } }
  public function database() { $s = stream_socket_client('tcp://127.0.0.1:5432', $no, $text, 1); if (!$s) { throw new \RuntimeException("$text ($no)"); } }
  public function manifest(string $path) { $text = file_get_contents($path); return json_decode($text); }
}
