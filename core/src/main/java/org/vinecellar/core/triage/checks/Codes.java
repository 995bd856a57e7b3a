package org.vinecellar.core.triage.checks;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** The error code of an application that a text tells: in a body, a message or a difference. */
public final class Codes {
  private static final int MAX_CHARS = 12_000;

  private static final Pattern KEYED =
      Pattern.compile(
          "(?i)([-+<>]?)\\s*[\\\\\"'`:]{0,3}\\b(error[_-]?code|err[_-]?code|errorcode|fault[_-]?code|app[_-]?code|reason[_-]?code|problem[_-]?code|error[_-]?type|error[_-]?key|message[_-]?key|code|reason|error|problem|errcode|fault|type|title|status[_-]?text|x-error-code)\\b[\\\\\"'`]{0,3}\\s*(?:=>|[:=])\\s*[\\\\\"'`:<(\\[]{0,4}([A-Za-z][\\w.:/-]{2,100}|\\d{4,6})(?=[\\\\\"'`\\s,;})\\]>.&]|$)");

  private static final Pattern WORDED =
      Pattern.compile(
          "(?i:\\b(?:error|fault|problem|reason|failure|application|response)?[ _-]?code(?:s)?(?: is| was| of)?[ :=<(\\[\"'`]{1,4})([A-Z][A-Z0-9]*(?:[-_.][A-Z0-9]+)+|[A-Z]{1,6}\\d{2,6})\\b");

  /** Of SOAP, where it is the application's own (SOAP 1.1, 4.4). */
  private static final Pattern SOAP =
      Pattern.compile(
          "(?i)\\bfault-?code(?:[\"'>:=]|\\s){1,4}(?!soap|env|s:|client\\b|server\\b)([A-Za-z][\\w.:-]{2,80})");

  private static final Set<String> OF_SOAP =
      Set.of("client", "server", "sender", "receiver", "mustunderstand", "versionmismatch");

  /** Behind a word for what went wrong. */
  private static final Pattern FAULT =
      Pattern.compile(
          "(?i:\\b(?:error|fault|problem|failure|alarm|abend)[ :#=(\\[]{1,3})([A-Z][A-Z0-9]*(?:[-_.][A-Z0-9]+)*[-_.]?[A-Z]{0,4}\\d{2,5})(?![\\w.-])");

  /** What an application says behind a status of gRPC. */
  private static final Pattern BEHIND_STATUS =
      Pattern.compile(
          "\\b(?:INVALID_ARGUMENT|FAILED_PRECONDITION|ABORTED|ALREADY_EXISTS|NOT_FOUND|OUT_OF_RANGE|PERMISSION_DENIED|RESOURCE_EXHAUSTED|INTERNAL|UNKNOWN|code = \\w{2,30} desc =):? ([A-Z][A-Z0-9]{1,20}(?:_[A-Z0-9]{1,20}){1,6})(?![\\w-])");

  /** In brackets, or before a colon, at the beginning of a message. */
  private static final Pattern LEADING =
      Pattern.compile(
          "(?:^|: |\\n|\")[\\[(<]?((?:[A-Z][A-Z0-9]{1,14}[-_.]){1,5}[A-Z0-9]{1,14}|[A-Z]{2,6}\\d{3,6})(?:[\\])>]|: | - | (?=[a-z]))");

  private static final Pattern SPOKEN =
      Pattern.compile(
          "(?<![\\w.-])([A-Z][A-Z0-9]{1,20}(?:_[A-Z0-9]{1,20}){1,6}|[A-Z]{2,10}-[A-Z]{0,10}-?\\d{2,5})(?![\\w-])");

  /** What is said everywhere says nothing. */
  private static final Set<String> COMMON =
      Set.of(
          """
          INTERNAL_SERVER_ERROR INTERNAL_ERROR SERVER_ERROR UNKNOWN_ERROR UNKNOWN ERROR FAILED
          FAILURE BAD_REQUEST NOT_FOUND CONFLICT FORBIDDEN UNAUTHORIZED UNPROCESSABLE_ENTITY
          UNPROCESSABLE_CONTENT SERVICE_UNAVAILABLE BAD_GATEWAY GATEWAY_TIMEOUT
          TOO_MANY_REQUESTS METHOD_NOT_ALLOWED NOT_ACCEPTABLE GONE PRECONDITION_FAILED
          UNSUPPORTED_MEDIA_TYPE REQUEST_TIMEOUT NOT_IMPLEMENTED CREATED OK ACCEPTED NO_CONTENT
          PAYMENT_REQUIRED LOCKED FAILED_DEPENDENCY INVALID_ARGUMENT FAILED_PRECONDITION
          OUT_OF_RANGE UNIMPLEMENTED INTERNAL UNAVAILABLE DATA_LOSS UNAUTHENTICATED
          ALREADY_EXISTS PERMISSION_DENIED RESOURCE_EXHAUSTED DEADLINE_EXCEEDED CANCELLED
          ABORTED GENERIC_ERROR GENERAL_ERROR UNEXPECTED_ERROR SYSTEM_ERROR TEST_FAILED
          ASSERTION_ERROR TIMEOUT_ERROR CONTENT_TYPE RUST_BACKTRACE SIGABRT SIGSEGV SIGKILL
          STATUS_CODE HTTP_STATUS ABOUT:BLANK TEXT JSON OBJECT STRING NUMBER BOOLEAN NULL TRUE
          FALSE HTTP_ERROR API_ERROR CLIENT_ERROR REQUEST_FAILED NETWORK_ERROR UTF-8 ISO-8601
          AUTH_ERROR VALIDATION_FAILED_GENERIC DATABASE_ERROR CONSOLE_ERROR HTTPERROR
          ASSERTIONERROR INSTRUMENTATION_RESULT INSTRUMENTATION_STATUS INSTRUMENTATION_CODE
          INSTRUMENTATION_FAILED INSTRUMENTATION_ABORTED CONSTRAINT_ERROR PROGRAM_ERROR
          STORAGE_ERROR TASKING_ERROR NAME_ERROR USE_ERROR DEVICE_ERROR DATA_ERROR END_ERROR
          MODE_ERROR LAYOUT_ERROR TYPE-ERROR SIMPLE-ERROR PROGRAM-ERROR CONTROL-ERROR
          PARSE-ERROR FILE-ERROR STREAM-ERROR END-OF-FILE ARITHMETIC-ERROR DIVISION-BY-ZERO
          UNBOUND-VARIABLE UNBOUND-SLOT UNDEFINED-FUNCTION PACKAGE-ERROR CELL-ERROR
          STORAGE-CONDITION"""
              .split("\\s+"));

  /** What validators, drivers and stores of files call by a code, beside what names the fault. */
  private static final Set<String> OF_LIBRARIES =
      Set.of(
          """
          invalid_type too_small too_big invalid_string invalid_enum_value invalid_union
          invalid_literal unrecognized_keys value_error type_error NoSuchBucket NoSuchKey
          AccessDenied SlowDown NoSuchUpload ExpiredToken InvalidAccessKeyId
          SignatureDoesNotMatch UNKNOWN_TOPIC_OR_PART UNKNOWN_TOPIC_OR_PARTITION
          LEADER_NOT_AVAILABLE NOT_LEADER_FOR_PARTITION TOPIC_AUTHORIZATION_FAILED
          GROUP_AUTHORIZATION_FAILED _TRANSPORT _ALL_BROKERS_DOWN _TIMED_OUT _MSG_TIMED_OUT
          _UNKNOWN_TOPIC _UNKNOWN_PARTITION EREQUEST ELOGIN ESOCKET ETIMEOUT MODULE_NOT_FOUND
          CANNOT_INSERT_UPDATE_ACTIVATE_ENTITY FIELD_CUSTOM_VALIDATION_EXCEPTION"""
              .split("\\s+"));

  /** Statuses as gRPC's own libraries print them. */
  private static final Set<String> OF_GRPC =
      Set.of(
          """
          InvalidArgument DeadlineExceeded NotFound AlreadyExists PermissionDenied
          ResourceExhausted FailedPrecondition OutOfRange DataLoss"""
              .split("\\s+"));

  private Codes() {}

  /**
   * The code; null when none is told. Of one that was wanted and one that came, the one that came.
   */
  public static @Nullable String in(String whole) {
    String text = whole.length() > MAX_CHARS ? whole.substring(0, MAX_CHARS) : whole;
    boolean diff = text.contains("\n+") || text.startsWith("+");
    Matcher soap = text.contains("ault") ? SOAP.matcher(text) : NOTHING.matcher("");
    while (soap.find()) {
      String code = soap.group(1).substring(soap.group(1).indexOf(':') + 1);
      if (!OF_SOAP.contains(code.toLowerCase(Locale.ROOT))) {
        return code;
      }
    }
    Matcher keyed = hasKey(text) ? KEYED.matcher(text) : NOTHING.matcher("");
    String weak = null;
    while (keyed.find()) {
      String key = keyed.group(2).toLowerCase(Locale.ROOT);
      String code = code(keyed.group(3), key);
      boolean wanted = diff && "-".equals(keyed.group(1)) || isWanted(text, keyed.start());
      if (code == null || wanted) {
        continue;
      }
      if (key.contains("code") || key.contains("key")) {
        return code;
      }
      weak = weak == null ? code : weak;
    }
    if (weak != null) {
      return weak;
    }
    if (!hasCapitals(text)) {
      return null;
    }
    String came = differing(text);
    if (came != null) {
      return came;
    }
    Matcher worded = WORDED.matcher(text);
    while (worded.find()) {
      String code = upper(worded.group(1));
      if (code != null && !isWanted(text, worded.start())) {
        return code;
      }
    }
    Matcher fault = FAULT.matcher(text);
    while (fault.find()) {
      String code = upper(fault.group(1));
      if (code != null && !isReference(code) && !isWanted(text, fault.start())) {
        return code;
      }
    }
    Matcher behind = BEHIND_STATUS.matcher(text);
    while (behind.find()) {
      String code = upper(behind.group(1));
      if (code != null && !isWanted(text, behind.start())) {
        return code;
      }
    }
    Matcher leading = LEADING.matcher(text);
    while (leading.find()) {
      String code = upper(leading.group(1));
      boolean bracketed = leading.start(1) > 0 && text.charAt(leading.start(1) - 1) == '[';
      if (code != null && !(bracketed ? isLong(code) : isReference(code))) {
        return code;
      }
    }
    Matcher answered = ANSWERED.matcher(text);
    while (answered.find()) {
      int group = answered.group(1) == null ? 2 : 1;
      String code = upper(answered.group(group));
      if (code != null && !isWanted(text, answered.start(group))) {
        return code;
      }
    }
    return null;
  }

  /** At the end of a line that tells what was answered. */
  private static final Pattern ANSWERED =
      Pattern.compile(
          "\\b[45]\\d\\d\\b(?:.{0,200}?: ([A-Z][A-Z0-9]{1,20}(?:_[A-Z0-9]{1,20}){1,6})\\.?$|[ :]{1,3}[\\[(]([A-Z][A-Z0-9]{1,20}(?:[-_.][A-Z0-9]{1,20}){1,6})[\\])])",
          Pattern.MULTILINE);

  /** Numbers of databases, which stand in front of the name of what is wrong. */
  private static final Set<String> OF_DRIVERS =
      Set.of(
          "11000", "11001", "1048", "1054", "1062", "1064", "1146", "1205", "1213", "1216", "1217",
          "1364", "1406", "1451", "1452", "2601", "2627", "1555", "2067");

  /** Of a library for databases. */
  private static final Pattern PRISMA = Pattern.compile("P[1-6]\\d{3}");

  /** Of databases, not of the application (ISO 9075, and classes of PostgreSQL). */
  private static final Pattern SQL_STATE =
      Pattern.compile("(?:08|22|23|25|28|40|42|53|55|57|58)[0-9]{3}");

  private static final Pattern NOTHING = Pattern.compile("(?!)");

  private static final Set<String> KEYS =
      Set.of(
          "code",
          "error",
          "reason",
          "problem",
          "fault",
          "type",
          "title",
          "key",
          "text",
          "errcode",
          "errorcode");

  /** Whether a word that may be a key stands before a colon or an equals sign. */
  private static boolean hasKey(String text) {
    for (int i = 2; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c != ':' && c != '=') {
        continue;
      }
      int end = i;
      while (end > 0 && i - end < 5 && " \\\"'`".indexOf(text.charAt(end - 1)) >= 0) {
        end--;
      }
      int start = end;
      while (start > 0 && end - start < 20 && Character.isLetter(text.charAt(start - 1))) {
        start--;
      }
      String word = text.substring(start, end).toLowerCase(Locale.ROOT);
      if (KEYS.contains(word)
          || word.endsWith("code")
          || word.endsWith("key")
          || word.endsWith("type")) {
        return true;
      }
    }
    return false;
  }

  /** Whether capitals stand together as in a code: with a mark or a digit behind them. */
  private static boolean hasCapitals(String text) {
    int run = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= 'A' && c <= 'Z') {
        run++;
      } else {
        if (run > 1 && (c == '_' || c == '-' || c == '.' || (c >= '0' && c <= '9'))) {
          return true;
        }
        run = 0;
      }
    }
    return false;
  }

  /** Of several codes in a comparison, the one that came. */
  private static @Nullable String differing(String text) {
    int wanted = text.indexOf("xpected");
    if (wanted < 0) {
      return null;
    }
    Matcher spoken = SPOKEN.matcher(text);
    String first = null;
    while (spoken.find()) {
      String code = upper(spoken.group(1));
      if (code == null || isReference(code)) {
        continue;
      }
      if (first != null && !first.equals(code)) {
        return text.lastIndexOf("xpected", spoken.start()) > text.indexOf(first) ? first : code;
      }
      first = code;
    }
    return null;
  }

  private static boolean isWanted(String text, int at) {
    int from = Math.max(0, at - 24);
    String before = text.substring(from, at).toLowerCase(Locale.ROOT);
    int word = Math.max(before.lastIndexOf("expected"), before.lastIndexOf("want "));
    return word >= 0 && before.indexOf("but", word) < 0 && before.indexOf("got", word) < 0;
  }

  private static @Nullable String code(String token, String key) {
    String text = token;
    while (text.endsWith(".") || text.endsWith(":") || text.endsWith("-") || text.endsWith("/")) {
      text = text.substring(0, text.length() - 1);
    }
    if (Character.isDigit(text.charAt(0))) {
      return key.contains("code")
              && !SQL_STATE.matcher(text).matches()
              && !OF_DRIVERS.contains(text)
          ? text
          : null;
    }
    boolean strong =
        key.contains("code")
            || key.contains("key")
            || key.equals("reason")
            || key.contains("error_type")
            || key.contains("problem");
    if (text.startsWith("urn:") || text.startsWith("http")) {
      int cut = Math.max(text.lastIndexOf(':'), text.lastIndexOf('/'));
      String last = text.substring(cut + 1);
      return last.length() > 3 && key.equals("type") && last.matches("[A-Za-z][\\w.-]+")
          ? last.toLowerCase(Locale.ROOT)
          : null;
    }
    String upper = PRISMA.matcher(text).matches() || isOfStandard(text) ? null : upper(text);
    if (upper != null
        && (text.indexOf('_') > 0
            || text.indexOf('-') > 0
            || text.indexOf('.') > 0
            || text.matches("[A-Z]+\\d{2,}")
            || strong && text.equals(text.toUpperCase(Locale.ROOT)))) {
      return upper;
    }
    boolean worded =
        text.matches("[a-z][a-z0-9]*(?:[-_.][a-z0-9]+)+")
            || text.matches("[A-Z][a-z0-9]+(?:[A-Z][a-z0-9]+)+");
    boolean type =
        text.endsWith("Exception")
            || text.endsWith("Error")
            || text.indexOf('/') > 0
            || text.startsWith("application")
            || text.matches(".*\\.(?:java|py|js|ts|go|rb|cs|php|rs|kt)");
    return worded
            && strong
            && !type
            && !OF_LIBRARIES.contains(text)
            && !OF_GRPC.contains(text)
            && !COMMON.contains(text.toUpperCase(Locale.ROOT).replace('-', '_').replace('.', '_'))
        ? text
        : null;
  }

  private static @Nullable String upper(String text) {
    if (!text.equals(text.toUpperCase(Locale.ROOT))
        || COMMON.contains(text)
        || OF_LIBRARIES.contains(text)
        || text.startsWith("ERR_")
        || text.startsWith("ER_")
        || text.startsWith("SQLITE_")
        || text.startsWith("UND_ERR_")
        || text.startsWith("SQLSTATE")
        || text.startsWith("NS_ERROR")
        || text.startsWith("SEC_ERROR")
        || text.startsWith("HTTP_")
        || text.startsWith("EXPECT_")
        || text.startsWith("ASSERT_")
        || text.startsWith("CHECK_")
        || text.startsWith("SSL_")) {
      return null;
    }
    boolean errno =
        text.matches("E[A-Z]{3,15}") || text.matches("[0-9A-Z]{5}") && !text.matches("[A-Z]+\\d+");
    return errno ? null : text;
  }

  /** Numbers that Oracle leaves to applications (RAISE_APPLICATION_ERROR). */
  private static final String OF_ORACLE = "ORA-20\\d{3}";

  /** A number of five digits and more is that of a booking or a ticket, not of a kind of error. */
  private static boolean isReference(String code) {
    return !code.matches(OF_ORACLE)
        && (isLong(code) || code.matches("[A-Z]{2,3}-\\d{4,}") || isOfStandard(code));
  }

  private static boolean isOfStandard(String code) {
    return code.matches("(?:UTF|ISO|SHA|RFC|TLS|HTTP|ORA|JDK|UTC|TS|PG)[-_]?\\d+.*")
        && !code.matches(OF_ORACLE);
  }

  private static boolean isLong(String code) {
    return code.matches(".*\\d{5,}.*") && !code.matches(OF_ORACLE) || isOfStandard(code);
  }
}
