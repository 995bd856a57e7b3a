package org.vinecellar.core.triage.faults;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * The words by which errors of all clients and languages tell ways of failing and kinds of
 * components: names and phrases of errno (POSIX.1-2017, "Error Numbers"), SQLSTATE (ISO/IEC 9075
 * and PostgreSQL's appendix A), status codes of HTTP (RFC 9110), gRPC, SMTP (RFC 5321), AMQP 0-9-1,
 * Kafka, S3, OAuth (RFC 6749), alerts of TLS (RFC 8446), net errors of browsers.
 */
final class Vocabulary {
  /**
   * A way on each line, and its phrases; what is further in goes on with the line before. An
   * underscore at an end stands for the edge of a word.
   */
  private static final String PHRASES_OF_WAYS =
      """
      DISK_FULL: no space left on device | _enospc_ | not enough space on the disk |
        there is not enough space | disk quota exceeded | _edquot_ | could not extend file |
        diskfull | disk full | database or disk is full | sqlstate[53100] | sqlstate 53100 |
        insufficient disk space | disk is full | insufficient system storage |
        no space available | flood stage disk watermark | filesystem full | storagefull |
        kafkastorageexception | low on disk |
        errno 28 | os error 28 | out of disk | not enough disk space | disk_full |
        no space left | ora-01653 | ora-01654 | ora-01652 | low on disk space
      HEAP: java heap space | gc overhead limit exceeded | heap out of memory |
        outofmemoryerror | outofmemoryexception | _memoryerror_ | cannot allocate memory |
        _enomem_ | allowed memory size of | out of memory: killed | _oomkilled |
        runtime: out of memory | std::bad_alloc | _bad_alloc | memory allocation of |
        nomemoryerror | failed to allocate memory | reached heap limit |
        direct buffer memory | requested array size exceeds vm limit | unable to allocate |
        memory limit exceeded | exhausted memory | out of memory |
        oom-kill | oom_kill | memory cgroup out of memory | exceeded memory limit |
        memory exhausted | process out of memory | array buffer allocation failed | errno 12 |
        os error 12 | killed (oom) | memory limit reached
      METASPACE: _metaspace_ | permgen space | compressed class space
      THREADS: unable to create native thread | unable to create new native thread |
        can't start new thread | cannot start new thread | pthread_create failed |
        failed to spawn thread | can't create thread | can't create thread: resource |
        fork: retry | fork: resource temporarily unavailable |
        resource temporarily unavailable | failed to start thread |
        unable to start a thread | thread creation failed | newosproc |
        cannot create thread | cannot create a thread | too many threads | cannot fork |
        fork failed | unable to fork | failed to fork
      FILES: too many open files | _emfile_ | _enfile_ | file descriptors exhausted |
        too many files open | file table overflow |
        errno 24 | os error 24 | out of file descriptors | number of file watchers |
        inotify instances | inotify watch limit
      KILLED: signal: killed | exit code 137 | exited with code 137 | exit status 137 | sigkill |
        exited with signal 9 | process was killed | evicted |
        exit code: 137 | (sigkill) | killed by signal | terminated by signal 9 | with code 137 |
        signal 9 | code=killed | status=137 | command terminated with exit code 137
      CERTIFICATE_EXPIRED: certificate has expired | cert_has_expired | certificate is expired |
        certificateexpired | certificate expired | validity check failed | notafter: |
        not after: | err_cert_date_invalid | certificate_expired | certificate has run out |
        is not yet valid | certificatenotyetvalid | sec_error_expired |
        expired certificate | certexpired | certnotvalidyet | notaftertime |
        not time valid | nottimevalid | the certificate for this server has expired |
        invalid peer certificate: expired |
        invalidcertificate(expired | certificate is not valid yet | certificate_has_expired |
        cert expired | certificate validity period
      CERTIFICATE_NAME: subject alternative name | err_tls_cert_altname_invalid | altnames |
        hostname mismatch | certificate is valid for | err_cert_common_name_invalid |
        certnotvalidforname | remotecertificatenamemismatch | doesn't match ' |
        hostname verification | does not match certificate | no name matching |
        no alternative certificate subject name | certificate is not valid for |
        host name does not match | name does not match certificate | notvalidforname |
        does not match the certificate | certificate subject name
      CERTIFICATE_UNTRUSTED: unable to find valid certification path | self signed certificate |
        self-signed certificate | unknown authority | unable_to_verify_leaf_signature |
        unable to get local issuer certificate | depth_zero_self_signed_cert |
        untrusted root | untrustedroot | err_cert_authority_invalid | unknown ca |
        partialchain | unknownissuer | no required ssl certificate |
        certificate verify failed | certificate_unknown | bad certificate |
        pkix path building failed | trust anchor |
        certificate signed by unknown | certificate is not trusted | untrusted certificate |
        selfsigned certificate | sec_error_unknown_issuer | remotecertificatechainerrors |
        no trusted certificate | the certificate for this server is invalid |
        unable to get issuer certificate | ssl certificate problem |
        the remote certificate is invalid
      HANDSHAKE: handshake_failure | handshake failure | handshake failed | sslhandshakeexception |
        wrong version number | wrong_version_number | protocol_version |
        unsupported protocol | no cipher suites in common | no shared cipher |
        err_ssl_protocol_error | err_ssl_version | ssl_error_syscall | tls alert |
        handshakefailure | remote host terminated the handshake |
        first record does not look like a tls handshake |
        sslv3 alert handshake | tlsv1 alert | alert protocol version | no protocols in common |
        unsupported_protocol | inappropriate fallback
      CLOCK: requesttimetooskewed | clock skew | token used before issued |
        issued in the future | difference between the request time and the current time
      TOO_MANY_CONNECTIONS: remaining connection slots are reserved | too many clients already |
        too many connections | max number of clients reached | connection limit exceeded |
        maxclientconn | no more connections allowed | sqlstate[53300] | sqlstate 53300 |
        _53300_ | connection-limit | max_user_connections |
        too many open connections | maximum number of connections | max_connections | ora-00018 |
        ora-00020 | ora-12516 | ora-12519 | ora-12520 | reached the connection limit |
        no more connections
      POOL: connection is not available, request timed out |
        timeout waiting for connection from pool | queuepool limit | pool is probably full |
        timeout acquiring a connection | resourcerequest timed out |
        prior to obtaining a connection from the pool |
        could not obtain a connection from the pool | pool timed out while waiting | pooltimedout |
        pool error timeout waiting | timeout waiting for idle object | pool exhausted |
        pool empty | pooltimeout | pool timeout | connectionpooltimeout |
        connection pool exhausted | connection pool is exhausted |
        no connection available in pool | connection pool is full | pool is exhausted |
        exhausted the pool | could not get a resource from the pool |
        unable to check out connection | could not checkout the connection |
        connection_not_available | queue_timeout | connection not available |
        waiting for a connection to become available |
        acquiring a connection from the pool | timed out waiting for a connection |
        waitqueuetimeout | wait queue | request was dropped from queue |
        all pooled connections were in use | max pool size was reached |
        timed out waiting for a free connection | no free connections |
        timed out fetching a new connection | unable to acquire a connection |
        unable to acquire jdbc connection | cannot get a connection, pool |
        unable to get a connection, pool | no managed connections available |
        connection acquisition timed out | acquisition timeout | no idle connections | ij000453 |
        ij000655 | checkout timeout
      STARTING: the database system is starting up | the database system is shutting down |
        terminating connection due to administrator command | in recovery mode |
        loading the dataset in memory | is starting up | server shutdown in progress |
        57p01 | 57p03 | 57p02 | not yet accepting connections | node is recovering |
        shutting down |
        ora-01033 | ora-01034 | ora-01089 | busyloading | redis is loading | server is starting |
        not ready to accept | node not ready | shutdown in progress
      READ_ONLY: read-only transaction | read only replica | readonly you can't write |
        read-only file system | _erofs_ | --read-only option | read-only mode | _25006_ |
        database is read-only | readonly database | index read-only |
        super-read-only | readonlysqltransaction | os error 30 | errno 30 | ora-16000 |
        attempt to write a readonly database | index_read_only | cannot write to a read-only
      MEMORY_OF_SERVER: oom command not allowed | used memory > 'maxmemory' | _misconf_ | low on memory |
        circuit_breaking_exception | data too large | sqlstate[53200] |
        memory resource limit alarm | memory alarm | connection.blocked
      LOGIN: password authentication failed | authentication failed | access denied for user |
        noauth authentication required | _wrongpass_ | invalid username-password pair |
        access_refused | login was refused | login failed for user | invalid_client |
        invalid_grant | bad credentials | authentication credentials invalid |
        invalidaccesskeyid | signaturedoesnotmatch | sasl authentication | 28p01 |
        sqlstate[28000] | no pg_hba.conf entry | invalid login |
        authentication unsuccessful | invalidcredentials | expiredtoken |
        token has expired | saslauthenticationexception | ora-01017 |
        proxy authentication required | unauthenticated |
        permission denied (publickey | 535 5.7 | invalidclienttokenid | expiredtokenexception |
        unrecognizedclientexception | unable to locate credentials | could not load credentials |
        could not find default credentials | nocredentialproviders |
        the security token included in the request | invalid username/password | ora-28000 |
        aadsts7000 | unauthorized_client | tunnel failed, response 407 | err_proxy_auth |
        sasl authentication failed
      THROTTLED: too many requests | slowdown | please reduce your request rate | rate limit |
        rate exceeded | toomanyrequests | throttlingexception | requestlimitexceeded |
        provisionedthroughputexceeded | resource_exhausted | resourceexhausted |
        quota exceeded | es_rejected_execution |
        ratelimitexceeded | exceeded your current quota | 429 too many | pull rate limit |
        request limit exceeded | quotaexceeded | limitexceededexception | api rate limit
      LICENCE: license expired | licence expired | license has expired | licence has expired |
        no valid license | no valid licence | license is invalid | license file |
        trial has expired | license limit | licence limit
      NAME_UNKNOWN: unknownhost | _enotfound_ | _eai_again_ | getaddrinfo failed | no such host |
        name or service not known | nodename nor servname | could not resolve host |
        couldn't resolve host | temporary failure in name resolution |
        name does not resolve | failed to lookup address |
        no address associated with hostname | php_network_getaddresses | nxdomain |
        servfail | could not translate host name | failed to resolve | name resolution |
        err_name_not_resolved | ns_error_unknown_host | unable to resolve host |
        cannot resolve host | host not found | no such host is known | unknown host |
        getaddrinfo | hostname could not be |
        server with the specified hostname could not be found | unresolvedaddress |
        dns error | dns lookup | could not resolve | lookup failed | could not find host |
        unresolved address | eai_noname | eai_nodata | socket.gaierror |
        unknown mysql server host | non-existent domain | name not resolved |
        could not be resolved | failed host lookup | host lookup failure |
        err_name_resolution_failed | dns_probe | has no usable address | wsahost_not_found |
        getaddrinfow | no address found for | non-existing domain
      UNREACHABLE: network-related or instance-specific error | could not open a connection to sql server |
        no route to host | _ehostunreach_ | network is unreachable | _enetunreach_ |
        host is down | network unreachable | host unreachable | err_address_unreachable |
        err_internet_disconnected | hostunreachable | unreachable host |
        a socket operation was attempted to an unreachable | can't reach database server |
        can't reach | cannot reach | could not reach | unable to reach | could not be reached |
        cannot be reached | is not reachable |
        noroutetohost | os error 113 | errno 113 | os error 101 | errno 101 | network is down |
        _enetdown_ | _ehostdown_ | host is unreachable
      REFUSED: connection refused | tns:no listener | cant_connect | cannot_connect | no listener at host | _econnrefused_ | actively refused | connectionrefused |
        connect call failed | refused the connection | err_connection_refused |
        ns_error_connection_refused | refused to connect | os error 111 |
        connection to server at | could not connect to server | errno 111 |
        connect failed: connection refused | failed to connect to | unable to connect to |
        can't connect to | couldn't connect to server | could not connect to the server |
        could not connect to | cannot connect to | no connection could be made |
        all connection attempts failed | none of the specified endpoints were reachable |
        nobrokersavailable | no brokers available | all brokers are down |
        failed to establish a new connection | no nodes are available | noservers |
        no living connections | noresolvedneededconnection | communications link failure |
        unable to obtain connection from database | connection failure | connect() failed |
        errno: 61 | connection_closed: refused | :econnrefused | dial_failed |
        failed to open tcp connection |
        tcp connect error | connection_refused | socketexception (111) | wsaeconnrefused |
        could not establish tcp connection | could not establish connection |
        unable to establish connection | cannot establish connection | couldn't connect to |
        unable to open socket | error trying to connect | broker may not be available |
        brokerunreachable | is the server running on | failed to open socket |
        cannot open connection to | could not open connection to | connection attempt failed |
        not possible to connect to | unabletoconnect on | unable to bootstrap from
      GATEWAY_TIMEOUT: gateway time-out | gateway timeout | gateway timed out |
        upstream request timeout
      GATEWAY: bad gateway | upstream connect error | no healthy upstream |
        no server is available to handle | backend fetch failed |
        upstream prematurely closed | no available server | 503 backend | proxy error |
        the upstream server |
        connect tunnel failed | tunnel connection failed | err_tunnel_connection_failed |
        err_proxy_connection_failed
      NO_LEADER: leader_not_available | leadernotavailable | not_enough_replicas |
        notenoughreplicas | leader not available | clusterdown | no master |
        master_not_discovered | no leader | not leader | not primary | not master | notwritableprimary | notleaderforpartition |
        not_leader | coordinator_not_available | coordinator not available | no primary |
        no replica set members | masterdown | noquorum | no quorum | serverselection |
        server selection |
        leadership election | leader election | notleaderorfollower | not the current leader |
        not the leader | no leader for | insufficient replicas | primary not found |
        no primary node | in the middle of an election
      RESET: connection reset | _econnreset_ | socket hang up | broken pipe | _epipe_ |
        forcibly closed | server closed the connection unexpectedly | connection aborted |
        _econnaborted_ | premature close | peer closed connection | connection was closed |
        unexpected eof | connection closed | connection terminated unexpectedly |
        server has gone away | lost connection to | err_connection_reset |
        err_connection_closed | err_empty_response | empty reply from server |
        remote end closed connection | remotedisconnected | incomplete message |
        connectionreset | end of file reached | stream closed | channel shutdown |
        connection is closed | unexpected end of stream | prematurely closed |
        an i/o error occurred while sending to the backend | response ended prematurely |
        broker transport failure | smtpserverdisconnected | connection is already closed due to connection error | connection lost | goaway | server disconnected |
        ns_error_net_reset | software caused connection abort |
        network connection was lost | node disconnected | end-of-file | connectionclosed |
        closed by the remote host | :closed |
        connection was reset | closed abnormally | without completing the close handshake |
        no close frame | connection terminated | rst_stream | nghttp2_internal_error |
        err_http2 | os error 104 | errno 104 | os error 32 | errno 32 |
        connection closed before | unexpected end of file from server |
        unexpectedly closed the connection | closed the connection unexpectedly |
        stream was reset | communication link failure
      CONNECT_TIMEOUT: waiting for a server that matches | connect timed out | connection timed out | connectiontimedout | connectiontimeout | _etimedout_ | connecttimeout |
        connect timeout | connection timeout | timed out connecting |
        timed out while connecting | dial timeout | err_connection_timed_out |
        timeout expired (connect | failed to connect within | os error 110 | errno 110 |
        err_timed_out | timeout connecting |
        timed out trying to connect | connecting timed out | execution expired |
        net::opentimeout | opentimeout | no response from the server while connecting |
        connection attempt failed because |
        tls handshake timeout | handshake timed out | connection attempt timed out |
        timeout while connecting | connection time-out | wsaetimedout | connect_timeout |
        errno 60 | und_err_connect_timeout
      ANSWER_TIMEOUT: timeout expired while fetching topic metadata | read timed out | readtimeout | read timeout | i/o timeout | sockettimeout |
        esockettimedout | awaiting headers | deadline exceeded | deadlineexceeded |
        deadline_exceeded | operation timed out | request timed out | response timed out |
        statement timeout | canceling statement due to | lock wait timeout | _57014_ |
        no response within | timed out waiting for a response | command timed out |
        query timed out | query_canceled | timeout performing |
        timeout exceeded when trying to connect | net::readtimeout |
        did not respond in time | lettuce.core.rediscommandtimeout | rediscommandtimeout |
        delivery.timeout | expiring_ | request timeout | timeout of_ |
        execution timeout expired | no answer from | no response from | httptimeoutexception | idletimeout |
        client.timeout exceeded | configured httpclient.timeout | socket timeout |
        the operation has timed out | lock request time out | took too long to respond |
        upstream timed out | und_err_headers_timeout | und_err_body_timeout | headers timeout error |
        body timeout error
      UNAVAILABLE: service unavailable | unavailable:_ | status.unavailable | code = unavailable |
        statuscode.unavailable | statuscode="unavailable" |
        server is currently unavailable | service not available | temporarily unavailable |
        421 4. | 421 service | serviceunavailable | is currently unavailable | transport is closing |
        failed to connect to all addresses |
        vault is sealed | service_unavailable | 503 service
      PORT_TAKEN: address already in use | _eaddrinuse_ | port already in use |
        port is already allocated | only one usage of each socket address | addrinuse |
        port already allocated | address in use |
        os error 98 | errno 98 | errno 48 | failed to bind to address | could not bind to |
        port is in use | unable to bind to
      DEVICE: session not created | chrome not reachable | devtoolsactiveport | browser closed |
        browser has been closed | browsertype.launch | executable doesn't exist |
        invalid session id | target crashed | page crashed | tab crashed | device offline |
        no devices/emulators found | device not found | device 'emulator- | failed to launch the browser |
        unable to launch | simulator is not booted | could not start a new session |
        browser process | device went offline | unable to discover open pages |
        disconnected: not connected to devtools | failed to launch |
        no nodes support the capabilities | unable to create session |
        cannot find chrome binary | chrome failed to start | cannot start the driver service |
        unable to obtain driver | could not find chrome | tab has crashed |
        no available devices | device unauthorized | failed to boot | no connected devices |
        browser was not found | could not start browser
      IMAGE: imagepullbackoff | manifest unknown | pull access denied | errimagepull |
        failed to pull image | no such image
      CONTAINERS: could not find a valid docker environment | cannot connect to the docker daemon |
        docker daemon | container startup failed | timed out waiting for container port |
        docker is either not running | dockerunavailable | containerlaunchexception |
        can't get docker image | podman machine
      DISPLAY: cannot open display | could not open display | unable to open display |
        missing x server | no x11 display | headlessexception | cannot connect to x server |
        could not connect to display | qt.qpa.xcb | failed to connect to wayland |
        no screens found | unable to init server: could not connect
      RUNTIME: unsupportedclassversion | unsupported class file major version |
        compiled by a more recent version of the java | node_module_version |
        compiled against a different node.js version | unsupported engine |
        exec format error | bad cpu type in executable | you must install or update .net |
        was built with an incompatible version | glibc_2 | incompatible library version
      """;

  private static final String WORDS_OF_KINDS =
      """
      postgres: postgres | password authentication failed for user | psycopg | asyncpg | _pg_ | pg:: | npgsql | lib/pq | pgx | _pq:_ |
        sqlstate[08006] | pdo_pgsql | [pgsql] | _pgsql | postgrex | tokio_postgres |
        pgconnection | pgpool
      mysql: mysql | mariadb | pymysql | com.mysql | communications link failure | er_con_count |
        [2002] | jdbc:mysql
      mssql: sqlserver | connection to sql server | sqlclient | mssql | tedious
      oracle: _ora- | oracle.jdbc | cx_oracle
      redis: redis | replyerror | jedis | lettuce | predis | redix | wrongpass | noauth
      memcached: memcache | spymemcached
      kafka: kafka | librdkafka | rdkafka | sarama | bootstrap.servers | bootstrap broker |
        broker transport
      amqp: amqp | rabbit | pika. | bunny:: | lapin
      mongo: mongo
      elasticsearch: elasticsearch | opensearch | elastic.transport | elastic_transport
      smtp: smtp | nodemailer | javax.mail | jakarta.mail | mailkit | mailconnectexception |
        postmark | lettre
      s3: _s3_ | s3: | amazons3 | minio | s3client | aws::s3 | s3exception |
        the putobject operation | the getobject operation | the headobject operation |
        the deleteobject operation | the listobjects operation | the listobjectsv2 operation
      dynamodb: dynamodb | the putitem operation | the getitem operation |
        the updateitem operation | provisionedthroughput
      sqs: _sqs_ | simplequeueservice
      kinesis: kinesis
      ldap: ldap | javax.naming
      nats: nats: | nats-server | io.nats
      zookeeper: zookeeper | org.apache.zookeeper
      etcd: etcd
      cassandra: cassandra | nohostavailable
      sftp: sftp | ftp: | jsch | paramiko
      selenium-grid: selenium-hub | selenium grid | /wd/hub
      sqlite: sqlite
      proxy: err_proxy | proxy connect | through proxy | to proxy | proxyerror |
        proxy authentication required | tunnel connection failed | connect tunnel failed |
        err_tunnel | proxy returns
      vault: vault is sealed | springframework.vault | hashicorp
      oauth: oauth | invalid_client | invalid_grant | unauthorized_client | openid | keycloak | token endpoint
      docker: docker | error response from daemon | pull rate limit
      """;

  /**
   * Phrases of each way, in the order of the ways. A blank at an end stands for the edge of a word.
   */
  static final Map<Way, List<String>> WAYS = new EnumMap<>(Way.class);

  /** Words that name kinds of components. */
  static final Map<String, List<String>> KINDS = new LinkedHashMap<>();

  static {
    lists(PHRASES_OF_WAYS).forEach((way, phrases) -> WAYS.put(Way.valueOf(way), phrases));
    KINDS.putAll(lists(WORDS_OF_KINDS));
  }

  private static Map<String, List<String>> lists(String text) {
    Map<String, List<String>> lists = new LinkedHashMap<>();
    String name = "";
    for (String line : text.split("\n")) {
      String phrases = line;
      if (!line.startsWith(" ")) {
        int colon = line.indexOf(": ");
        name = line.substring(0, colon);
        phrases = line.substring(colon + 2);
      }
      List<String> list = lists.computeIfAbsent(name, k -> new ArrayList<>());
      for (String phrase : phrases.split("\\|")) {
        if (!phrase.isBlank()) {
          list.add(phrase.strip().replaceAll("^_|_$", " "));
        }
      }
    }
    return lists;
  }

  private static final Map<Integer, String> PORTS =
      Map.ofEntries(
          Map.entry(5432, "postgres"),
          Map.entry(6432, "postgres"),
          Map.entry(3306, "mysql"),
          Map.entry(1433, "mssql"),
          Map.entry(1521, "oracle"),
          Map.entry(6379, "redis"),
          Map.entry(6380, "redis"),
          Map.entry(26379, "redis"),
          Map.entry(11211, "memcached"),
          Map.entry(9092, "kafka"),
          Map.entry(9093, "kafka"),
          Map.entry(9094, "kafka"),
          Map.entry(29092, "kafka"),
          Map.entry(5672, "amqp"),
          Map.entry(5671, "amqp"),
          Map.entry(15672, "amqp"),
          Map.entry(27017, "mongo"),
          Map.entry(9200, "elasticsearch"),
          Map.entry(9300, "elasticsearch"),
          Map.entry(25, "smtp"),
          Map.entry(465, "smtp"),
          Map.entry(587, "smtp"),
          Map.entry(1025, "smtp"),
          Map.entry(2525, "smtp"),
          Map.entry(389, "ldap"),
          Map.entry(636, "ldap"),
          Map.entry(4222, "nats"),
          Map.entry(2181, "zookeeper"),
          Map.entry(2379, "etcd"),
          Map.entry(9042, "cassandra"),
          Map.entry(22, "sftp"),
          Map.entry(21, "sftp"),
          Map.entry(4444, "selenium-grid"),
          Map.entry(3128, "proxy"),
          Map.entry(2375, "docker"));

  private static final Map<String, String> SCHEMES =
      Map.ofEntries(
          Map.entry("postgresql", "postgres"),
          Map.entry("postgres", "postgres"),
          Map.entry("mysql", "mysql"),
          Map.entry("mariadb", "mysql"),
          Map.entry("sqlserver", "mssql"),
          Map.entry("redis", "redis"),
          Map.entry("rediss", "redis"),
          Map.entry("mongodb", "mongo"),
          Map.entry("amqp", "amqp"),
          Map.entry("amqps", "amqp"),
          Map.entry("smtp", "smtp"),
          Map.entry("smtps", "smtp"),
          Map.entry("ldap", "ldap"),
          Map.entry("ldaps", "ldap"),
          Map.entry("nats", "nats"),
          Map.entry("s3", "s3"),
          Map.entry("sftp", "sftp"),
          Map.entry("ftp", "sftp"));

  private Vocabulary() {}

  /** The kind of component that listens on a port by custom; empty for none. */
  static String ofPort(int port) {
    return PORTS.getOrDefault(port, "");
  }

  /** The kind that a URL's scheme tells; empty for none. */
  static String ofScheme(String scheme) {
    return SCHEMES.getOrDefault(scheme, "");
  }

  /** The phrases of all ways, in the order of the ways. */
  static List<String> phrases() {
    List<String> all = new ArrayList<>();
    WAYS.values().forEach(all::addAll);
    KINDS.values().forEach(all::addAll);
    return all;
  }
}
