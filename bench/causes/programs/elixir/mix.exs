defmodule Booking.MixProject do
  use Mix.Project
  def project, do: [app: :booking, version: "0.1.0", elixir: "~> 1.12", deps: []]
  def application, do: []
end
