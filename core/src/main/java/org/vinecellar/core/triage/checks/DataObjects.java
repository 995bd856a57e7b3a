package org.vinecellar.core.triage.checks;

import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.checks.Subject.Kind;

/**
 * Objects of databases, queues, stores and of access rules that an error names, by the way it
 * fails.
 */
public final class DataObjects {
  /** A row must not be as it is: the name tells whether it is unique, or points at another. */
  private static final String CONSTRAINT = "constraint";

  private static final String NAME = "[\"'`\\[(]?([\\w.$-]+)[\"'`\\])]?";

  /** A spelling, and what is wrong with the object. */
  private record Rule(String wrong, Form form) {
    /** Words about a store stand where its bucket may stand. */
    boolean mayName(String found) {
      return !wrong.equals("missing-bucket")
          || !found.equals("s3")
              && !found.equals("service")
              && !found.chars().allMatch(Character::isDigit);
    }

    static Rule of(String wrong, String needs, String regex) {
      return new Rule(wrong, Form.of(Kind.OBJECT, needs, regex));
    }
  }

  private static final List<Rule> RULES =
      List.of(
          Rule.of(
              CONSTRAINT,
              "unique|Unique|UNIQUE|uplicate",
              "(?:unique constraint|UNIQUE KEY constraint|unique key|unique index|UniqueConstraint) "
                  + NAME
                  + "|for key "
                  + NAME
                  + "|UNIQUE constraint failed: ([\\w., ]+)|Unique constraint failed on the (?:fields|constraint): \\(?`([\\w,` ]+)`|unique constraint \\(([\\w.]+)\\)|(collection: (?:[\\w-]+\\.)?[\\w.-]+ index: [\\w.$-]+) dup key|duplicate key error index: ([\\w.$-]+)|duplicate key in object '[^']*'.*constraint "
                  + NAME
                  + "|\\* \"?([\\w.-]+)\"? \\(unique_constraint\\)"),
          Rule.of(
              CONSTRAINT,
              "foreign|FOREIGN|REFERENCE",
              "foreign key constraint "
                  + NAME
                  + "|CONSTRAINT [`\"]([\\w.-]+)[`\"] FOREIGN KEY|REFERENCE constraint "
                  + NAME
                  + "|FOREIGN KEY constraint "
                  + NAME
                  + "|\\* \"?([\\w.-]+)\"? \\(foreign_key_constraint\\)"),
          Rule.of(
              CONSTRAINT,
              "check constraint|CHECK constraint|Check constraint|check_constraint",
              "(?i:check constraint) (?:failed: )?"
                  + NAME
                  + "|\\* \"?([\\w.-]+)\"? \\(check_constraint\\)"),
          Rule.of(CONSTRAINT, "exclusion constraint", "exclusion constraint " + NAME),
          Rule.of(
              "not-null",
              "null value in column|cannot be null|NOT NULL constraint|insert the value NULL|doesn't have a default|transient value",
              "null value in column \"?([\\w.]+)\"?|(?:Column|Field) '([\\w.]+)' (?:cannot be null|doesn't have a default)|NOT NULL constraint failed: ([\\w.]+)|insert the value NULL into column '([\\w.]+)'|not-null property references a null or transient value ?: ?(?:[\\w.]{1,200}\\.)?(\\w+)"),
          // However it is called, and whatever it constrains
          Rule.of(
              CONSTRAINT,
              "onstraint",
              "(?i:\\bconstraint)s?(?: (?:on the constraint|with name|named))?:? ?(?:[\"'`]([\\w.$-]{3,100})[\"'`]|\\[([\\w.$-]{3,100})\\])"),
          Rule.of(
              "missing",
              "does not exist|doesn't exist|no such table|Invalid object name|ORA-00942|not found in",
              "relation "
                  + NAME
                  + " does not exist|Table '(?:[\\w-]+\\.)?([\\w-]+)' doesn't exist|no such table: (?:\\w+\\.)?([\\w]+)|Invalid object name '([\\w.]+)'|[Tt]able (?:or view )?"
                  + NAME
                  + " does not exist|table or view \"?\\w{1,128}\"?\\.\"?([\\w$#]{1,128})\"? does not exist|Table "
                  + NAME
                  + " not found|(?:schema|sequence|function|view|type|database|role|index|collection) "
                  + NAME
                  + "(?:\\([^)]*\\))? does not exist"),
          Rule.of(
              "missing-column",
              "olumn|ORA-00904",
              "column "
                  + NAME
                  + "(?: of relation \"\\w+\")? does not exist|Unknown column '([\\w.]+)'|no such column: ([\\w.]+)|Invalid column name '([\\w.]+)'|Column "
                  + NAME
                  + " not found"),
          Rule.of(
              "missing-topic",
              "opic|UNKNOWN_TOPIC|topic-partition",
              "[Tt]opic(?:\\(s\\))? "
                  + NAME
                  + " (?:is/are not present|not present in metadata|does not exist|not found|is not present|authorization)|(?:topic not available|Subscribed topic not available|unknown topic|Unknown topic):? "
                  + NAME
                  + "|does not host this topic-partition[.:]? [\\[(]([\\w.]+(?:-[\\w.]+)*?)-\\d+[\\])]|does not host this topic-partition.{0,80}?[Tt]opic[: =]*"
                  + NAME
                  + "|[Tt]opic[: =]+"
                  + NAME
                  + ".{0,120}?(?:does not host|Unknown topic|UNKNOWN_TOPIC|unknown topic)|UNKNOWN_TOPIC_OR_PARTITION.{0,80}?"
                  + "[\"'`\\[(]([\\w.-]+)[\"'`\\])]|topics: ?\\[?[\"']?([\\w.-]+)[\"']?\\]?.{0,60}unknown"),
          Rule.of(
              "missing-queue",
              "no queue|no exchange|NonExistentQueue|QueueDoesNotExist|o such queue|ueue ",
              "no (?:queue|exchange) '([\\w.-]+)'|[Qq]ueue "
                  + NAME
                  + " (?:does not exist|not found|is not declared)|QueueDoesNotExist.{0,200}?[:/]([\\w.-]+)$|[Qq]ueue does not exist[^\\n]{0,12}?[:/ ] ?([\\w-]{3,80})$|[Nn]o such queue:? "
                  + NAME),
          Rule.of(
              "missing-bucket",
              "ucket",
              "(?:NoSuchBucket|specified bucket does not exist)[\\s\\S]{0,300}?(?:s3://|[Bb]ucket(?:Name)?[\"']?[:=] ?[\"'`]?)([a-z0-9][\\w.-]+)|BucketName[>:\"'= ]+([\\w.-]+)|[Bb]ucket[:= ]+"
                  + NAME
                  + " (?:does not exist|not found|doesn't exist)|NoSuchBucket.{0,200}?[Bb]ucket[\"']?[:= ]+"
                  + NAME
                  + "|[Bb]ucket[\"']?[:= ]+[\"']?([\\w.-]+)[\"']?.{0,200}?NoSuchBucket|NoSuchBucket.{0,160}?(?:s3://|/)([a-z0-9][\\w.-]+)|/b/([a-z0-9][\\w.-]+)[^\\n]{0,200}bucket does not exist|The specified bucket does not exist.{0,60}?[:( ]([a-z0-9][a-z0-9.-]+)"),
          Rule.of(
              "quota",
              "uota exceeded for",
              "[Qq]uota exceeded for (?:quota metric |resource |project |queue |topic |bucket )?"
                  + NAME),
          Rule.of(
              "missing-index", "no such index|index_not_found", "no such index \\[?([\\w.-]+)\\]?"),
          Rule.of(
              "denied",
              "ermission denied|not authorized|ccess denied|AccessDenied|not have permission|orbidden|EACCES|nsufficient privileg|command denied|Unauthorized operation|does not have|equires ",
              "permission denied for (?:table|relation|schema|sequence|function|view|database|column|materialized view|user|topic|queue|bucket|tablespace|language)? ?"
                  + NAME
                  + "|(?:SELECT|INSERT|UPDATE|DELETE|EXECUTE) (?:command denied|permission was denied).{0,80}?(?:for table|on the object) "
                  + NAME
                  + "|not authorized to perform:? \\[?([\\w:*]+)|(?:EACCES: permission denied|[Pp]ermission denied).{0,30}?'([^']+)'|(?:lacks|[Mm]issing|[Rr]equires|does not have|not have)(?: the)?(?: required)? (?:permission|privilege|scope|role|authority|right)s? "
                  + NAME
                  + "|(?:permission|scope|privilege|role|authority) "
                  + NAME
                  + " (?:is )?(?:required|missing|denied)|[Aa]ccess denied (?:to|for|on) (?:the )?(?:table|topic|queue|bucket|resource|object|schema|database)? ?"
                  + NAME
                  + "|[Rr]equires ([a-z]{2,12} access to \"[^\"\\n]{1,200}\")"
                  + "|s3://([a-z0-9][\\w.-]+).{0,300}?(?:AccessDenied|Forbidden)|(?:AccessDenied).{0,300}?s3://([a-z0-9][\\w.-]+)|Not authorized to access (?:topics?|group): \\[?([\\w.-]+)"),
          Rule.of(
              "migration",
              "igration",
              "Migration ([\\w.]+) dependencies reference|[Mm]igration (?:checksum mismatch for migration version |of schema .*? to version |V?)[\"']?([\\w.]+)(?: - | failed|\"| mismatch)|checksum mismatch for migration version ([\\w.]+)|Script (V[\\w.]+?)(?:\\.sql)? failed"),
          Rule.of(
              "invalid",
              "alidation error|alidation failed|equired field|onstraintViolation|propertyPath|invalid_|required property",
              "\"code\": \"invalid_\\w+\",[\\s\\S]{0,300}?\"path\": ?\\[\\s*\"([\\w.-]+)\"\\s*\\]|[Rr]equired fields? (?:are |is )?missing:? ?[\\[\"'`]?(\\w[\\w.]{1,80})|must have required property [\"']([\\w.-]+)[\"']|validation errors? for (\\w+\\n\\s*(?![\\w.]*(?:Error|Exception)\\b|[A-Z][A-Z0-9]*_[A-Z0-9_]+\\b)[\\w.]+)|(\\w+ validation failed: \\w+)(?=:|$)|[Vv]alidation failed: ([A-Z][^\\n,;]{2,120})|propertyPath=([\\w.\\[\\]]+)"),
          Rule.of(
              "no-process",
              "no process|noproc",
              "GenServer\\.call\\(([A-Z][\\w.]+),[^\\n]*\\)[\\s\\S]{0,80}?\\bno ?process\\b|GenServer\\.call\\(([A-Z][\\w.]+),[^\\n]*\\)[\\s\\S]{0,80}?:noproc\\b"),
          Rule.of(
              "query-field", "Cannot query field", "Cannot query field [\"'](\\w+)[\"'] on type"));

  /** In texts that say that something is not there; what, is read apart. */
  private static final Form GONE =
      Form.of(
          Kind.OBJECT,
          "not found|not exist|n't exist|nknown |issing |o such |nexist|n-exist|ndefined |not available|not present|not declared|not known|not been|not be found",
          "(?!)");

  private static final Forms ALL =
      new Forms(Stream.concat(RULES.stream().map(Rule::form), Stream.of(GONE)).toList());

  /** MySQL puts the table in front of the key. */
  private static final Pattern TABLE_OF_KEY = Pattern.compile("^\\w+\\.(?=\\w*_\\w*$)");

  private static final Pattern IN_COLLECTION =
      Pattern.compile("^collection: (?:[\\w-]+\\.)?([\\w.-]+) index: ([\\w.$-]+)$");

  private static final Pattern QUALIFIER = Pattern.compile("^(?:public|dbo|main|skerrow_\\w+)\\.");

  private DataObjects() {}

  /**
   * @return with the way it fails before the name, as in {@code unique bookings_ref_key}; null when
   *     the text names none
   */
  public static @Nullable Subject in(String said) {
    // Within other texts, quotes are escaped.
    String text = said.indexOf("\\\"") < 0 ? said : said.replace("\\\"", "\"");
    BitSet mayFit = ALL.mayFit(text);
    int rules = RULES.size();
    for (int i = mayFit.nextSetBit(0); i >= 0 && i < rules; i = mayFit.nextSetBit(i + 1)) {
      Rule rule = RULES.get(i);
      String name =
          rule.form()
              .in(text, found -> found.length() > 1 && !isWord(found) && rule.mayName(found));
      if (name != null) {
        name = name.replaceAll("\\s+", " ");
        name = IN_COLLECTION.matcher(name).replaceFirst("$1.$2");
        String plain = QUALIFIER.matcher(name.toLowerCase(Locale.ROOT)).replaceFirst("");
        if (rule.wrong().equals(CONSTRAINT)
            && (text.contains("for key") || text.contains("ORA-"))) {
          plain = TABLE_OF_KEY.matcher(plain).replaceFirst("");
        }
        if (plain.indexOf('/') >= 0) {
          plain = Paths.last(plain);
        }
        return new Subject(Kind.OBJECT, rule.wrong() + " " + trimmed(plain), true);
      }
    }
    String gone = mayFit.get(rules) ? GoneObjects.in(text) : null;
    return gone == null ? null : new Subject(Kind.OBJECT, trimmed(gone), true);
  }

  private static String trimmed(String name) {
    int end = name.length();
    while (end > 0 && (name.charAt(end - 1) == '.' || name.charAt(end - 1) == '-')) {
      end--;
    }
    return name.substring(0, end);
  }

  /** Words of sentences that stand where a name may stand. */
  private static boolean isWord(String name) {
    return List.of(
            "of",
            "on",
            "for",
            "the",
            "in",
            "to",
            "with",
            "user",
            "a",
            "an",
            "is",
            "was",
            "and",
            "or",
            "constraint",
            "violation",
            "table",
            "failed",
            "not",
            "from",
            "this",
            "that",
            "by",
            "does",
            "did",
            "exist",
            "exists",
            "has",
            "already",
            "named",
            "called",
            "name",
            "value",
            "which",
            "it",
            "at")
        .contains(name.toLowerCase(Locale.ROOT));
  }
}
