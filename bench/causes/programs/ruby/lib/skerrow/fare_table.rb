require 'json'
require 'socket'
require_relative 'util/guards'

module Skerrow
  class VoyageError < StandardError; end

  class FareTable
    def initialize(rows) = @rows = rows

    def priced(zone)
      @rows[zone].amount
    end

    def discounted(zone, percent)
      zone * 100 / percent
    end

    def currency(voyage) = Guards.require!(voyage[:currency], 'currency')

    def season(voyage) = Guards.require!(voyage[:season], 'season')
  end

  module Tides
    def self.height(tide)
      { 'high' => 4 }.fetch(tide)
    end
  end

  class Voyage
    def open(tide)
      Tides.height(tide)
    rescue KeyError
      raise VoyageError, "voyage #{rand(9999)} cannot open"
    end

    def database = TCPSocket.new('127.0.0.1', 5432)
    def lookup = TCPSocket.new('fares-db.skerrow.invalid', 5432)
    def manifest(path) = JSON.parse(File.read(path))
  end
end
