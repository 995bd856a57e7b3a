require_relative '../lib/skerrow/fare_table'
include Skerrow

RSpec.describe FareTable do
  it('prices a family__fare_table_priced') { FareTable.new({}).priced(3) }
  it('prices a group__fare_table_priced') { [1].each { FareTable.new({}).priced(rand(99)) } }
  it('discounts__fare_table_discounted') { FareTable.new({}).discounted(3, 0) }
  it('knows currency__fare_table_currency') { FareTable.new({}).currency({}) }
  it('knows season__fare_table_season') { FareTable.new({}).season({}) }
  it('opens at ebb__tides_height') { Voyage.new.open('ebb') }
  it('expects no error__tides_height') { expect { Voyage.new.open('neap') }.not_to raise_error }
  it('total__bare_total') { total = rand(9); expect(total).to eq(99) }
  it('seats__bare_seats') { seats = rand(9); expect(seats).to eq(99) }
  it('deck__field_deck') { expect({ deck: 'B', seats: 4 }).to eq({ deck: 'A', seats: 4 }) }
  it('database__refused_postgres') { Voyage.new.database }
  it('lookup__dns') { Voyage.new.lookup }
  it('manifest__file_manifest') { Voyage.new.manifest("/tmp/agent-#{rand(999)}/manifest.json") }
  it('crew__file_crew') { Voyage.new.manifest("/tmp/agent-#{rand(999)}/crew.json") }
end
