package org.vinecellar.bench.grouping;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.regex.Pattern;

/**
 * Other names for the code of the product, so that what is measured does not hang on the names that
 * somebody thought of.
 */
final class Names {
  private static final List<String> THINGS =
      List.of(
          """
          Fare Berth Route Tide Cabin Voyage Crew Kiosk Pier Quay Deck Ramp Axle Cargo Parcel Port
          Gate Queue Ticket Voucher Season Refund Manifest Customs Passport Seat Table Menu Fuel
          Engine Pump Ballast Weather Wind Chart Buoy Pilot Tariff Discount Invoice Ledger Payment
          Loyalty Member Guest Pet Bicycle Vehicle Trailer Luggage Lounge Shop Galley Alarm Drill
          Roster Shift Wage Permit Signal Beacon"""
              .strip()
              .split("\\s+"));
  private static final List<String> ROLES =
      List.of(
          """
          Validator Checker Service Manager Handler Controller Resolver Provider Factory Gateway
          Adapter Mapper Repository Registry Engine Planner Book Board Table Rules Policy Processor
          Listener Job Task Worker Monitor Builder Parser Reader Writer Importer Exporter Renderer
          Formatter Calculator Estimator Allocator Dispatcher Scheduler Router Queue Ledger Index
          Cache Store View Page Screen Panel Form Model State Session Context Command Query Event
          Report Client Link Port Result Response Request Facade Bus Proxy Source Executor Runner"""
              .strip()
              .split("\\s+"));
  private static final List<String> DEEDS =
      List.of(
          """
          check validate verify load find get send run execute apply handle process resolve create
          build open close read write parse render format compute estimate allot assign lock unlock
          take give move swap merge split round sum count list next first last post settle renew
          extend cancel confirm print draw sign seal flush drain await poll wait hold free book"""
              .strip()
              .split("\\s+"));
  private static final Pattern CLASS = Pattern.compile("[A-Z][a-z]+(?:[A-Z][a-z]+)*");
  private static final Pattern CAMEL = Pattern.compile("[a-z]+(?:[A-Z][a-z]+)+");
  private static final Pattern SNAKE = Pattern.compile("[a-z]+(?:_[a-z]+)+");

  private final Random random;
  private final Map<String, String> given = new HashMap<>();

  Names(Random random) {
    this.random = random;
  }

  /** The row with other names, where it is about code of the product. */
  String[] of(Faces.Family family, String[] row) {
    boolean placed = java.util.Arrays.stream(row).anyMatch(cell -> cell.indexOf('/') > 0);
    boolean shared = !family.cause().startsWith(family.framework());
    if (!family.kind().equals("product") || shared || placed) {
      return row;
    }
    String[] other = row.clone();
    for (int i = 0; i < other.length; i++) {
      other[i] = of(family.framework() + family.name() + i, other[i]);
    }
    return other;
  }

  private String of(String where, String name) {
    boolean known =
        CLASS.matcher(name).matches() && !name.endsWith("Error") && !name.endsWith("Exception")
            || CAMEL.matcher(name).matches()
            || SNAKE.matcher(name).matches();
    return known ? given.computeIfAbsent(where + name, k -> fresh(name)) : name;
  }

  private String fresh(String name) {
    String thing = one(THINGS);
    if (CLASS.matcher(name).matches()) {
      return thing + one(ROLES);
    }
    String deed = one(DEEDS);
    boolean both = random.nextBoolean();
    return SNAKE.matcher(name).matches()
        ? deed + "_" + thing.toLowerCase(Locale.ROOT)
        : both ? deed + thing : deed;
  }

  private String one(List<String> words) {
    return words.get(random.nextInt(words.size()));
  }
}
