package org.vinecellar.service.reports;

import java.time.temporal.ChronoUnit;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.reports.Report;
import org.vinecellar.service.sheets.Place;
import org.vinecellar.service.sheets.SheetWords;

/**
 * Where a report belongs.
 *
 * @param portal its address, without a slash at the end
 * @param project its key
 * @param name of the project
 */
record Where(String portal, String project, String name) {
  String link(Sheet.Link link) {
    return Place.of(portal, project, link);
  }

  /** From which day to which. */
  static String days(Report report) {
    String first = SheetWords.day(report.period().from());
    String last = SheetWords.day(report.period().to().minus(1, ChronoUnit.NANOS));
    return first.equals(last) ? first : first + " to " + last;
  }
}
