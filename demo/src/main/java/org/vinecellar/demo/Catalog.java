package org.vinecellar.demo;

import java.util.ArrayList;
import java.util.List;

/** The tests that the company has, as they are on a quiet night. */
final class Catalog {
  static final String ROUNDING = "org.skerrow.booking.fares.FareRoundingTest";
  static final String SEARCH = "org.skerrow.booking.sailings.SailingSearchTest";
  static final String FINDER = "org.skerrow.booking.sailings.SailingFinderTest";
  static final String BOARDING = "org.skerrow.booking.boarding.BoardingPassTest";
  static final String STORE = "org.skerrow.booking.store.ReservationStoreTest";

  private static final String[] ISLANDS = {
    "Skerrow",
    "Inner Holm",
    "Outer Holm",
    "Fjordhaven",
    "Kittiwake",
    "Nordkai",
    "St. Brannoc",
    "Långskär",
    "Île du Phare"
  };

  private Catalog() {}

  static List<Suite> booking() {
    List<Suite> suites = new ArrayList<>();
    suites.add(
        Suite.of(
            ROUNDING,
            0.012,
            "roundsHalfUpToTheCent",
            "roundsChildFareAfterTheDiscount",
            "addsHarbourDueBeforeRounding",
            "keepsTheCentOfAReturnFare",
            "splitsAGroupFareWithoutLosingACent",
            "convertsKronorAtTheDaysRate"));
    suites.add(
        Suite.of(
            SEARCH,
            0.180,
            "findsDirectSailings",
            "findsSailingsWithOneChange",
            "leavesOutSailingsThatAreFull",
            "ordersByDeparture",
            "showsTheLastSailingBeforeMidnight",
            "findsSailingsAcrossTheYearsEnd"));
    suites.add(
        Suite.of(
            BOARDING,
            0.060,
            "printsThePassOfAFootPassenger",
            "printsThePassOfACar",
            "printsOnePassForEachCoachPassenger",
            "refusesAPassAfterTheGateHasClosed",
            "namesTheBerthOfTheDay"));
    suites.add(
        Suite.of(
            STORE,
            0.340,
            "keepsAReservation",
            "findsAReservationByItsCode",
            "cancelsAReservation",
            "holdsSeatsForTenMinutes",
            "releasesSeatsWhenPaymentFails",
            "survivesTwoBookingsOfTheLastCabin"));
    String[] areas = {
      "cabins",
      "cars",
      "coaches",
      "freight",
      "loyalty",
      "meals",
      "payments",
      "pets",
      "refunds",
      "vouchers"
    };
    String[] tests = {
      "acceptsAPlainBooking",
      "refusesABookingInThePast",
      "countsTowardsTheCapacityOfTheDeck",
      "appearsOnTheInvoice",
      "canBeChangedUntilTwoHoursBeforeDeparture",
      "isRefundedInFullWhenTheSailingIsCancelled",
      "isLeftOutOfTheManifestWhenNotPaid",
      "sendsOneConfirmationAndOnlyOneEvenWhenTheMailServerAnswersLateAndTheBookingIsRepeated",
    };
    for (String area : areas) {
      String word = Character.toUpperCase(area.charAt(0)) + area.substring(1);
      suites.add(
          Suite.of("org.skerrow.booking." + area + "." + word + "BookingTest", 0.045, tests));
    }
    return suites;
  }

  /** What a review runs: the quick half. */
  static List<Suite> bookingChange() {
    return booking().stream().filter(suite -> !suite.name().equals(STORE)).limit(9).toList();
  }

  static List<Suite> kiosk() {
    List<Suite> suites = new ArrayList<>();
    suites.add(
        Suite.of(
            "tests.test_tickets",
            4.2,
            "test_buys_a_single_ticket",
            "test_buys_a_return_ticket",
            "test_receipt_is_shown_while_printing",
            "test_card_is_returned_after_a_timeout",
            "test_cancel_returns_to_the_first_page"));
    suites.add(
        Suite.of(
            "tests.test_languages",
            2.1,
            "test_every_page_speaks[en]",
            "test_every_page_speaks[nb]",
            "test_every_page_speaks[sv]",
            "test_every_page_speaks[日本語]",
            "test_switching_keeps_the_basket"));
    suites.add(
        Suite.of(
            "tests.test_departures",
            1.4,
            "test_board_shows_the_next_six_sailings",
            "test_delays_are_shown_in_minutes",
            "test_cancelled_sailings_are_struck_through",
            "test_board_survives_a_lost_connection"));
    suites.add(
        Suite.of(
            "tests.test_accessibility",
            1.9,
            "test_all_buttons_have_a_name",
            "test_reads_the_total_aloud",
            "test_high_contrast_is_kept_for_the_next_page"));
    return suites;
  }

  static List<Suite> timetable() {
    List<Suite> suites = new ArrayList<>();
    suites.add(
        Suite.of(
            "Timetable rules: high season",
            0.4,
            "Every island is served at least twice a day",
            "No ferry leaves before its crew has rested",
            "A sailing with livestock does not carry coaches",
            "The last ferry waits for the last train"));
    suites.add(
        Suite.of(
            "Timetable rules: winter",
            0.4,
            "A sailing is cancelled above force nine",
            "A cancelled sailing is replaced within a day",
            "Ice on the inner fairway doubles the crossing time"));
    suites.add(
        Suite.of(
            "Timetable rules: holidays",
            0.4,
            "Midsummer eve follows the Friday timetable",
            "No freight sails on the first of January",
            "Extra sailings are announced a week before"));
    return suites;
  }

  static List<Suite> device() {
    List<Suite> suites = new ArrayList<>();
    suites.add(
        Suite.of(
            "Crew sign-on",
            3.1,
            "signs on with a badge",
            "signs on with a code when the reader is broken",
            "refuses a crew member without a valid certificate"));
    suites.add(
        Suite.of(
            "Boarding",
            2.4,
            "scans a pass",
            "scans a pass with a cracked screen protector",
            "counts foot passengers and cars apart",
            "works without a network and catches up later"));
    suites.add(
        Suite.of(
            "Safety round",
            1.7,
            "lists the stations of the round",
            "reminds of a missed station",
            "keeps a photo of a defect"));
    return suites;
  }

  static List<Suite> fareTables() {
    List<Suite> suites = new ArrayList<>();
    for (String kind : new String[] {"adult", "child", "car", "coach"}) {
      List<Case> cases = new ArrayList<>();
      for (String from : ISLANDS) {
        for (String to : ISLANDS) {
          if (!from.equals(to)) {
            cases.add(
                Case.passed(
                    "fare of the table is the fare charged[" + from + "-" + to + "]", 0.004));
          }
        }
      }
      suites.add(new Suite("Fare table: " + kind, cases));
    }
    return suites;
  }
}
