package org.vinecellar.core.triage.code;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.vinecellar.core.triage.reading.Frame;

/** Runtimes, frameworks and libraries that many programs use, known by their names and places. */
final class Libraries {
  /** Beginnings of names on the JVM and in .NET. */
  private static final TreeSet<String> PACKAGES =
      new TreeSet<>(
          List.of(
              """
          java. javax. jakarta. jdk. sun. com.sun. kotlin. kotlinx. scala. groovy.
          groovyjarjarantlr clojure. org.codehaus. org.junit. junit. org.testng. org.assertj.
          org.hamcrest. org.mockito. org.opentest4j. org.spockframework. spock. io.kotest.
          io.mockk. org.scalatest. org.specs2. io.circe. sttp. fs2. org.http4s. munit. zio. cats. akka. org.apache. org.gradle.
          worker.org.gradle. com.intellij. io.cucumber. cucumber. org.springframework.
          org.hibernate. io.netty. com.zaxxer. org.postgresql. com.mysql. org.mariadb. oracle.
          com.microsoft. org.h2. org.hsqldb. com.fasterxml. tools.jackson. com.google. reactor.
          io.reactivex. rx. io.grpc. okhttp3. okio. retrofit2. feign. org.eclipse. io.undertow.
          org.jboss. org.wildfly. io.quarkus. io.vertx. io.smallrye. io.micrometer.
          io.micronaut. io.ktor. redis.clients. io.lettuce. org.redisson. com.rabbitmq.
          org.jooq. org.flywaydb. liquibase. org.openqa. io.appium. com.codeborne.
          com.microsoft.playwright. io.restassured. net.bytebuddy. net.sf.cglib. javassist.
          org.slf4j. ch.qos. org.jetbrains. android. androidx. com.android. dalvik. libcore.
          org.robolectric. org.awaitility. org.testcontainers. com.github.dockerjava.
          com.github.tomakehurst. org.wiremock. com.mongodb. org.bson. com.amazonaws.
          software.amazon. io.minio. org.elasticsearch. co.elastic. io.github.resilience4j.
          dev.failsafe. net.jodah. com.netflix. doobie. slick. play. com.typesafe.
          net.serenitybdd. com.thoughtworks. org.yaml. org.xml. org.w3c. net.jqwik.
          com.squareup. maestro. dadb. com.malinskiy.adam. lombok. io.opentelemetry. org.jsoup. com.jayway. com.jcraft.
          org.bouncycastle. org.thymeleaf. org.quartz. nu.xom. app.cash. System. Microsoft.
          Xunit. NUnit. Moq. NSubstitute. FakeItEasy. FluentAssertions. AwesomeAssertions.
          Shouldly. Npgsql. MySql. MySqlConnector. Dapper. Polly. StackExchange. RabbitMQ.
          MassTransit. Confluent. Newtonsoft. AutoMapper. Castle. Grpc. RestSharp. Refit.
          Serilog. MediatR. TechTalk. Reqnroll. OpenQA. MongoDB. Azure. Amazon. MailKit.
          MimeKit. FluentValidation. Autofac. NHibernate. Hangfire. Quartz. Verify. TUnit. Mono.
          Internal. Interop. Illuminate\\ Laravel\\ Symfony\\ GuzzleHttp\\ Doctrine\\ PHPUnit\\
          Behat\\ Codeception\\ Monolog\\ League\\ Pest\\ Mockery\\ Psr\\ Predis\\ Twig\\ Slim\\
          Cake\\ Yii\\ yii\\ Laminas\\ Amp\\ React\\ Carbon\\ Facebook\\ Aws\\ NunoMaduro\\"""
                  .split("\\s+")));

  /** Parts of paths under which what is installed stands. */
  private static final List<String> PATHS =
      List.of(
          """
          node_modules libraries/base/ libraries/containers node: ext: ://jsr.io/ ://deno.land/
          ://esm.sh/ ://unpkg.com/ ://cdn. jsdelivr.net/ webpack/bootstrap site-packages dist-packages /lib/python
          \\lib\\python <frozen <string> <__array_function__ /_pytest/ /pluggy/ /unittest/ /gems/
          <internal: /usr/lib/ruby /ruby/3. /ruby/2. .rbenv .rvm/ /vendor/ phpunit
          /usr/share/php /usr/local/go/ /usr/lib/go /go/src/runtime/ /go/src/testing/ /pkg/mod/ <anonymous> [native goroot /rustc/
          .cargo/registry /library/std/ /library/core/ /usr/include /usr/lib/ /usr/share/ gtest
          googletest catch2 catch.hpp /boost/ libsanitizer compiler-rt package:test
          package:flutter package:stack_trace package:matcher package:mocktail package:mockito
          package:dio/ package:http/ package:async/ dart: cypress_runner chunk-vendors /libexec/
          /bats-core/ bats-assert/ bats-support/ ./boot.jl ./error.jl ./client.jl /stdlib/ testthat <No file> /nix/store
          /opt/hostedtoolcache testing.go /asm_ Pester"""
              .split("\\s+"));

  private static final Set<String> APPS_OF_ELIXIR =
      Set.of(
          """
          elixir ex_unit stdlib kernel ecto ecto_sql phoenix phoenix_live_view plug plug_cowboy
          cowboy db_connection postgrex jason tesla finch mint hackney httpoison req mox oban
          absinthe telemetry logger mix bandit amqp redix wallaby"""
              .split("\\s+"));

  private static final List<String> NATIVE =
      List.of(
          """
          std:: | __gnu_cxx:: | __ | _start | _dispatch | core:: | alloc:: | test:: | rust_ |
          tokio:: | hyper:: | reqwest:: | sqlx:: | serde | futures | anyhow:: | diesel:: |
          tonic:: | actix | axum:: | proptest:: | rstest:: | testing:: | Catch:: | boost:: | Qt:: |
          QTest:: | QMessageLogger:: | QMetaObject:: | QCoreApplication:: | QEventLoop:: |
          doctest:: | operator new | operator delete | malloc | calloc | realloc | free | memcpy |
          memmove | memset | strlen | strcpy | start_thread | clone | clone3 | raise | abort |
          main | XCT | -[XC | +[XC | UIApplication | CFRun | GSEvent | swift_ | Swift. | swift:: |
          pthread | thread_start | panic | runtime. | testing. | reflect. | net/http | net.( |
          database/sql | encoding/ | context. | sync. | sync/ | internal/ | os.( | io. | bufio. |
          crypto/ | base:: | rlang:: | withr:: | Base. | Test. | error | Unity | MD_CHK | _ck_ |
          tcase_ | _d_ | core.exception. | core.runtime. | std. | GenServer. | srunner_ | g_test | g_assertion | sanitizer | asan_ | tsan_"""
              .split("\\s*\\|\\s*"));

  /** Classes and packages that every image of Smalltalk or Lisp has. */
  private static final Set<String> OF_IMAGES =
      Set.of(
          """
          Object ProtoObject UndefinedObject Boolean True False Number Integer SmallInteger
          LargePositiveInteger Float Fraction Magnitude Collection SequenceableCollection Array
          OrderedCollection ArrayedCollection Dictionary HashedCollection Set Bag Interval String
          Symbol ByteString Character Stream ReadStream WriteStream Exception Error Signal
          BlockClosure FullBlockClosure CompiledMethod Context MethodContext Process Semaphore
          Delay Class Behavior Metaclass Socket SocketStream ZdcSocketStream ZnClient
          TestCase TestAsserter TestSuite TestResult TestExecutionEnvironment
          CL COMMON-LISP SB-KERNEL SB-INT SB-IMPL SB-DEBUG SB-VM SB-EXT SB-C SB-PCL SB-SYS
          SB-THREAD SB-BSD-SOCKETS SB-ALIEN SB-UNIX SB-EVAL CCL ECL CLISP SYSTEM UIOP
          UIOP/RUN-PROGRAM ASDF ASDF/OPERATE FIVEAM IT.BESE.FIVEAM ROVE ROVE/CORE/ASSERTION
          ROVE/CORE/TEST PARACHUTE PROVE LISP-UNIT LISP-UNIT2 ALEXANDRIA BORDEAUX-THREADS
          LPARALLEL USOCKET DRAKMA DEXADOR HUNCHENTOOT CLACK QUICKLISP-CLIENT CLOSER-MOP SWANK
          SYS DBSNMP XDB MDSYS CTXSYS UT3"""
              .split("\\s+"));

  private Libraries() {}

  static boolean isOne(Frame frame) {
    String path = frame.path();
    if (!path.isEmpty()) {
      if (path.startsWith(Frame.OF_IMAGE)) {
        // A function without a name is called by one that has a name.
        return frame.qualified().isEmpty()
            || OF_IMAGES.contains(path.substring(Frame.OF_IMAGE.length()));
      }
      if (path.startsWith("app:")) {
        return APPS_OF_ELIXIR.contains(path.substring(4, Math.max(4, path.indexOf('/'))));
      }
      if (path.startsWith("internal/") && path.endsWith("js")) {
        // As Node prints its own; a package of Go may be called so too.
        return true;
      }
      for (String part : PATHS) {
        if (path.contains(part)) {
          return true;
        }
      }
    }
    String name = frame.qualified();
    if (name.isEmpty()) {
      return false;
    }
    String before = PACKAGES.floor(name);
    if (before != null && name.startsWith(before)) {
      return true;
    }
    boolean managed =
        path.endsWith(".java")
            || path.endsWith(".kt")
            || path.endsWith(".cs")
            || path.endsWith(".scala")
            || path.endsWith(".py")
            || path.endsWith(".rb")
            || path.endsWith(".php")
            || path.endsWith("js")
            || path.endsWith(".ts");
    return !managed && isNative(name);
  }

  private static boolean isNative(String name) {
    String plain = name.startsWith("<") ? name.substring(1) : name;
    if (plain.contains("_MOD_")) {
      // A module of Fortran.
      return false;
    }
    for (String start : NATIVE) {
      if (plain.startsWith(start)) {
        boolean word =
            !Character.isLetterOrDigit(start.charAt(start.length() - 1))
                || start.length() > 6 && !start.equals("operator new");
        boolean ends =
            plain.length() == start.length()
                || !Character.isLetterOrDigit(plain.charAt(start.length()))
                    && plain.charAt(start.length()) != '_'
                    // The package of a program of Go.
                    && !(start.equals("main") && plain.charAt(start.length()) == '.');
        if (word || ends) {
          return true;
        }
      }
    }
    return false;
  }
}
