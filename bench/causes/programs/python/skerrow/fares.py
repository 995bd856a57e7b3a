from skerrow.util.guards import require


class FareTable:
    def __init__(self, rows):
        self.rows = rows

    def priced(self, zone):
        return self.rows[zone]["amount"]

    def discounted(self, zone, percent):
        return self.priced(zone) * 100 / percent


def currency(voyage):
    return require(voyage.get("currency"), "currency")


def season(voyage):
    return require(voyage.get("season"), "season")
