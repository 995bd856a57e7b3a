package org.vinecellar.service.config;

import io.smallrye.config.ConfigMapping;
import io.smallrye.config.WithDefault;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** What an operator can set; each key is also an environment variable, VINE_ and so on. */
@ConfigMapping(prefix = "vine")
public interface VineConfig {
  /** How uploads are taken in. */
  Upload upload();

  /** How runs behave. */
  Run run();

  /** How bundles are kept and served. */
  Bundle bundle();

  /** How people sign in. */
  Session session();

  /** What the first start makes. */
  First first();

  /** The client that is offered for download. */
  Client client();

  /** Where the service writes. */
  Data data();

  /** Who is let in, and how many at a time. */
  Door door();

  /** The address to listen on. */
  @WithDefault("127.0.0.1")
  String host();

  /** The port to listen on. */
  @WithDefault("8420")
  int port();

  /** Where browsers and pipelines find the portal; without a path. */
  Optional<String> publicUrl();

  /** Metrics. */
  Metrics metrics();

  /** Trackers of the projects. */
  Tracker tracker();

  /** How lists are filtered. */
  Filter filter();

  /** How lists are filtered. */
  interface Filter {
    /** A look through what a filter asks is given up after so long. */
    @WithDefault("10S")
    Duration patience();
  }

  /** How uploads are taken in. */
  interface Upload {
    /** Uploads that are read at the same time; others wait. Each takes two connections. */
    @WithDefault("4")
    int concurrent();

    /** An upload that could not be begun after so long is sent away. */
    @WithDefault("60S")
    Duration longestWait();

    /** The most uploads that wait. */
    @WithDefault("2000")
    int waiting();

    /** The most mebibytes of one request. */
    @WithDefault("1024")
    long maxMegabytes();

    /** The most bytes of one file, unpacked. */
    @WithDefault("2147483648")
    long maxFileBytes();

    /** The most bytes of one attachment; a larger one is named but not kept. */
    @WithDefault("104857600")
    long maxAttachmentBytes();
  }

  /** How runs behave. */
  interface Run {
    /** An open run that gets nothing for this long is closed. */
    @WithDefault("30M")
    Duration silence();
  }

  /** How bundles are kept and served. */
  interface Bundle {
    /** The port of their own origin; 0 for any that is free. */
    @WithDefault("8421")
    int port();

    /** Where browsers find that port, when a server stands before it; without a path. */
    Optional<String> url();

    /** A wildcard name, each of whose names leads to that port; {@code none} for none. */
    Optional<String> host();

    /** The most mebibytes of one bundle, unpacked, for streams that set nothing themselves. */
    @WithDefault("500")
    int maxMegabytes();

    /** How many days they are kept, for streams that set nothing themselves. */
    @WithDefault("90")
    int days();
  }

  /** How people sign in. */
  interface Session {
    /** How long somebody stays signed in. */
    @WithDefault("7D")
    Duration length();

    /** Whether cookies are sent over HTTPS only; as the public address is when nothing is said. */
    Optional<Boolean> secureCookie();
  }

  /** What the first start makes. */
  interface First {
    /** Login of the first administrator. */
    @WithDefault("admin")
    String user();

    /** Key of the first project. */
    @WithDefault("main")
    String project();

    /** Name of the first project. */
    @WithDefault("Main")
    String projectName();

    /** A file that gets the first sign-in and token as JSON; without it they are logged once. */
    Optional<String> accessFile();
  }

  /** The client that is offered for download. */
  interface Client {
    /** The client's jar. */
    @WithDefault("client/target/vine.jar")
    String jar();

    /** The jar of the listener for the JUnit Platform. */
    @WithDefault("listeners/junit/target/vine-junit-listener.jar")
    String listener();
  }

  /** Where the service writes. */
  interface Data {
    /** A directory of the service's own; made when there is none. */
    @WithDefault(".cellar/service")
    String dir();

    /** Where the database keeps its files, when that is on this machine; to see its disk. */
    Optional<String> database();

    /** So many mebibytes of each disk are kept free. */
    @WithDefault("512")
    long reserveMegabytes();
  }

  /** Who is let in, and how many at a time. */
  interface Door {
    /** The most connections at a time. */
    @WithDefault("4096")
    int connections();

    /** The most connections from one address, unless proxies are trusted. */
    @WithDefault("2048")
    int connectionsOfAddress();

    /** A connection on which nobody asked for anything whole for so long is closed. */
    @WithDefault("20S")
    Duration silence();

    /** The same after a first request. */
    @WithDefault("75S")
    Duration silenceAfterwards();

    /** The most requests at a time, but for uploads, downloads and watchers. */
    @WithDefault("400")
    int requests();

    /** The same from one address. */
    @WithDefault("200")
    int requestsOfAddress();

    /** The most bodies that are being sent at a time. */
    @WithDefault("512")
    int bodies();

    /** The most bodies that are being sent from one address. */
    @WithDefault("256")
    int bodiesOfAddress();

    /** A body of which nothing came for so long is given up. */
    @WithDefault("20S")
    Duration bodyIdle();

    /** The most downloads at a time. */
    @WithDefault("256")
    int downloads();

    /** The most downloads at a time to one address. */
    @WithDefault("64")
    int downloadsOfAddress();

    /** A reader who takes nothing for so long is given up. */
    @WithDefault("60S")
    Duration writeIdle();

    /** The most who watch runs live. */
    @WithDefault("1000")
    int watchers();
  }

  /** Trackers of the projects. */
  interface Tracker {
    /** Hosts that may be called, with the port when it is not the usual one; none if not set. */
    Optional<List<String>> hosts();
  }

  /** Metrics. */
  interface Metrics {
    /** The token that reads them; without it only administrators do. */
    Optional<String> token();
  }
}
