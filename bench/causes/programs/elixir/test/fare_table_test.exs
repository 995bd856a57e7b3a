defmodule Booking.FareTableTest do
  use ExUnit.Case
  alias Booking.FareTable
  test "family__fare_table_priced", do: FareTable.priced(%{}, 3)
  test "group__fare_table_priced", do: Enum.map([5], &FareTable.priced(%{}, &1))
  test "split__fare_table_split", do: FareTable.split(:rand.uniform(9), 0)
  test "ebb__height", do: FareTable.height("ebb")
  test "neap__height", do: FareTable.height("neap")
  test "total__bare_total", do: assert(:rand.uniform(9) == 99)
  test "open__expr_open", do: assert(FareTable.height("high") > 99)
  test "database__refused_postgres", do: assert({:ok, _} = FareTable.dial(~c"127.0.0.1"))
  test "manifest__file_manifest", do: File.read!("/tmp/agent-#{:rand.uniform(99)}/manifest.json")
end
