module Skerrow
  module Guards
    def self.require!(value, name)
      raise ArgumentError, "#{name} must not be nil" if value.nil?
      value
    end
  end
end
