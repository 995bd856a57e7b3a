package org.vinecellar.core.triage.signature;

import java.util.Collection;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;

/** The words of an error that tell something: not those that every failed check says. */
final class Words {
  private static final int MAX_WORDS = 60;

  /** Said by checks, runners and runtimes whatever went wrong. */
  private static final Set<String> COMMON =
      Set.of(
          """
          a about actual actually actualvalue after again all already also an and another any
          api are around array as assert asserted assertion assertionerror assertionfailed
          assertionfailederror assertions asserts at backtrace bad be because been before being
          between bool boolean but by byte bytes call called calling calls can cannot case cases
          cause caused chai char character characters chars check checked checks class code
          column com compare compared comparison comparisonfailure condition contain contains
          content contents correct could count critical debug deep deeply description detail
          details did diff differ difference different differs do does done double down due
          during e each elem element elements elems empty eq equal equality equals equalto error
          errored errors etc every exception exceptions exit expect expectation expected
          expectedvalue expecting expects fail failed failing fails failure failures false fatal
          file find first float for found frame frames from function g ge given go got gt h had
          has have here hint hour hours i identical if in include includes incorrect index info
          instance instead int integer into invalid io is it item items its java jest junit
          jupiter just key keys kotlin lang last le least left length less lhs like line lines
          list log logs long loosely lt m map match matched matches matching may message method
          min minitest minute minutes mocha more most ms msg mstest must my name named ne net
          next nil no node none nonetype not note null number numbers nunit object objects of ok okay on
          one only onto opentest4j or org other our out output over panic panicked pass passed
          per php phpunit please previous problem pytest python raise raised raises reason
          receive received result results return returned returns rhs right row rspec ruby run
          running rust s same scala sec second seconds secs see set shall should size so spec
          stack status stderr stdout still strict strictly string strings such suite swift test
          tested testing tests text than that the their then there these they this those throw
          throwable thrown throws time timed timeout times to too trace traceback true try two
          type types undefined under unexpected unexpectedly unknown up upon use used using
          valid value values fulfilled satisfied unsatisfied exactly once twice thrice argument arguments
          args invocation invocations invoked invoke agent retry retries retrying retried attempt
          attempts utc gmt am pm mon tue wed thu fri sat sun jan feb mar apr jun jul aug sep oct nov
          dec monday tuesday wednesday thursday friday saturday sunday uncaught unhandled unmatched
          operands operand following verified verify very via vitest void wait waited waiting want
          wanted warn warning was we were when where which while will with within would wrong
          diagnostic diagnostics framework verification evaluate evaluated eql equalp codec utf position obtained val decode decoded encode continuation mismatched rtol atol tolerance absolute relative max
          caught threw xunit yet you your tobe tobetruthy tobefalsy tobenull
          tobedefined tobeundefined toequal tostrictequal tohavelength tocontain tothrow tomatch
          tomatchobject tohaveproperty tobecloseto tobegreaterthan tobelessthan asserting assertequals
          truthy falsey falsy arrays hashes dicts tuples promise rejection response responses
          status_code statuscode http
          asserttrue assertfalse assertthat areequal istrue isfalse assertequal"""
              .split("\\s+"));

  /** How a check is called. */
  private static final Pattern CHECK =
      Pattern.compile(
          "to(?:Be|Have|Equal|Strict|Match|Contain|Throw|Include|Satisfy|Resolve|Reject)[A-Za-z]*");

  /** Begins a word that is a name in a program, not one of a language. */
  private static final char NAME = '`';

  private Words() {}

  /**
   * Whether it is written as names in programs are: {@code not_null_deck}, {@code payNow}, S0C7.
   */
  private static boolean isName(String word) {
    boolean capitals = word.length() > 3;
    for (int i = 0; i < word.length(); i++) {
      char c = word.charAt(i);
      boolean inside = i > 0 && i + 1 < word.length();
      if (inside
          && (c == '_' || Character.isUpperCase(c) && Character.isLowerCase(word.charAt(i - 1)))) {
        return true;
      }
      capitals &= Character.isUpperCase(c) || Character.isDigit(c);
    }
    return capitals;
  }

  /** The telling words of a masked text, in the order of the alphabet. */
  static Collection<String> of(String masked) {
    Set<String> words = new TreeSet<>();
    int length = masked.length();
    int from = 0;
    for (int at = 0; at <= length && words.size() < MAX_WORDS; ) {
      int c = at < length ? masked.codePointAt(at) : ' ';
      int next = at + Character.charCount(c);
      if (!isOfWord(c)) {
        if (at > from) {
          add(masked.substring(from, at), words);
        }
        from = next;
      }
      at = next;
    }
    return words;
  }

  private static boolean isOfWord(int c) {
    return c == '_'
        || c == '$'
        || Character.isLetterOrDigit(c)
        || Character.getType(c) == Character.LETTER_NUMBER
        || Character.getType(c) == Character.OTHER_NUMBER;
  }

  private static void add(String raw, Set<String> words) {
    int end = raw.length();
    while (end > 0 && (raw.charAt(end - 1) == '_' || raw.charAt(end - 1) == '$')) {
      end--;
    }
    String word = raw.substring(0, end).toLowerCase(Locale.ROOT);
    if (raw.startsWith("to") && CHECK.matcher(raw).matches()) {
      return;
    }
    if (word.length() > 1 && word.length() <= 80 && hasLetter(word) && !COMMON.contains(word)) {
      words.add(isName(raw) ? NAME + word : word);
    }
  }

  private static boolean hasLetter(String word) {
    for (int i = 0; i < word.length(); i++) {
      if (Character.isLetter(word.charAt(i))) {
        return true;
      }
    }
    return false;
  }
}
