defmodule Booking.FareTable do
  def priced(rows, zone), do: Map.fetch!(rows, zone) + 1
  def split(total, heads), do: div(total, heads)
  def height("high"), do: 4
  def dial(host), do: :gen_tcp.connect(host, 5432, [])
end
