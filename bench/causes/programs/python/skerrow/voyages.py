import json
import socket
import urllib.request

from skerrow.fares import FareTable


class VoyageError(Exception):
    pass


def height(tide):
    return {"high": 4, "low": 1}[tide]


def open_voyage(tide):
    try:
        return height(tide)
    except KeyError as e:
        raise VoyageError(f"voyage cannot open at {tide}") from e


def plan(table, zone):
    try:
        return FareTable(table).priced(zone)
    except TypeError:
        raise RuntimeError("planning failed")


def database():
    return socket.create_connection(("127.0.0.1", 5432), 1)


def lookup():
    return socket.create_connection(("fares-db-2.skerrow.invalid", 5432), 1)


def manifest(path):
    with open(path) as f:
        return json.load(f)
