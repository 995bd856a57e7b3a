import random
import pytest
from skerrow import fares, voyages
from skerrow.fares import FareTable


def test_prices_family__fare_table_priced():
    assert FareTable({3: None}).priced(3) == 12


def test_prices_group__fare_table_priced():
    assert FareTable({7: None}).priced(7) * 3 == 40


def test_plan__fare_table_priced():
    voyages.plan({random.randint(1, 99): None, 5: None}, 5)


def test_discount__fare_table_discounted():
    FareTable({3: {"amount": 4}}).discounted(3, 0)


def test_currency__fares_currency():
    fares.currency({"id": random.randint(1, 9999)})


def test_season__fares_season():
    fares.season({})


def test_open_at_ebb__voyages_height():
    voyages.open_voyage("ebb")


def test_open_at_neap__voyages_height():
    with pytest.raises(OSError):
        voyages.open_voyage("neap")


def test_total__bare_total():
    total = 3 + random.randint(1, 9)
    assert total == 99


def test_seats__bare_seats():
    seats = 3 + random.randint(1, 9)
    assert seats == 99


def test_booking_shape__field_deck():
    booking = {"id": random.randint(1, 9999), "deck": "B", "seats": 4}
    assert {"deck": booking["deck"], "seats": 4} == {"deck": "A", "seats": 4}


def test_database__refused_postgres():
    voyages.database()


def test_lookup__dns():
    voyages.lookup()


def test_manifest__file_manifest():
    voyages.manifest("/tmp/agent-%d/manifest.json" % random.randint(1, 999))


def test_crew__file_crew():
    voyages.manifest("/tmp/agent-%d/crew.json" % random.randint(1, 999))


class TestBooking:
    def test_quote_total__expr_quote_total(self):
        class Quote:
            def total(self):
                return random.randint(1, 50)
        quote = Quote()
        assert quote.total() == 120
