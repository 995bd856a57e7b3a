<?php
namespace Skerrow\Util;
final class Guard {
  public static function present($v, string $name) { if ($v === null) { throw new \InvalidArgumentException("$name must not be null"); } return $v; }
}
