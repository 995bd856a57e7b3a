package org.vinecellar.store;

import java.time.Duration;
import java.util.Map;
import java.util.concurrent.Executor;
import javax.sql.DataSource;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.ServiceSecrets;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.core.access.SignInTries;
import org.vinecellar.core.access.TokenStore;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.boards.FailureFacts;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.moves.MoveStore;
import org.vinecellar.core.operate.DatabaseWatch;
import org.vinecellar.core.quarantine.QuarantineStore;
import org.vinecellar.core.removal.RemovalStore;
import org.vinecellar.core.reports.ReportFacts;
import org.vinecellar.core.runs.RunEvents;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.today.TodayStore;
import org.vinecellar.core.triage.code.CodeStore;
import org.vinecellar.core.triage.decisions.CategoryStore;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.rules.RuleStore;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.grid.GridStore;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.core.trust.renames.FoldingStore;
import org.vinecellar.core.work.SumProof;
import org.vinecellar.core.work.WorkStore;
import org.vinecellar.store.access.PgPeopleStore;
import org.vinecellar.store.access.PgProjectStore;
import org.vinecellar.store.access.PgServiceSecrets;
import org.vinecellar.store.access.PgSessionStore;
import org.vinecellar.store.access.PgSignInTries;
import org.vinecellar.store.access.PgTokenStore;
import org.vinecellar.store.blobs.BlobStore;
import org.vinecellar.store.blobs.PgBlobStore;
import org.vinecellar.store.boards.PgBoardFacts;
import org.vinecellar.store.boards.PgBoardStore;
import org.vinecellar.store.boards.PgFailureFacts;
import org.vinecellar.store.bundles.PgBundleStore;
import org.vinecellar.store.edits.PgEditStore;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.ingest.PgIngestStore;
import org.vinecellar.store.ledger.PgSumProof;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.live.PgLiveStore;
import org.vinecellar.store.moves.PgMoveStore;
import org.vinecellar.store.moves.StreamMove;
import org.vinecellar.store.quarantine.PgQuarantineStore;
import org.vinecellar.store.removal.PgRemovalStore;
import org.vinecellar.store.removal.RunRemoval;
import org.vinecellar.store.reports.PgReportFacts;
import org.vinecellar.store.runs.PgRunEvents;
import org.vinecellar.store.runs.PgRunStore;
import org.vinecellar.store.saved.PgSavedFilterStore;
import org.vinecellar.store.sql.PgDatabaseWatch;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.today.PgTodayStore;
import org.vinecellar.store.triage.Carrying;
import org.vinecellar.store.triage.PgCategoryStore;
import org.vinecellar.store.triage.PgCodeStore;
import org.vinecellar.store.triage.PgDeskStore;
import org.vinecellar.store.triage.PgTriageStore;
import org.vinecellar.store.triage.RunExplaining;
import org.vinecellar.store.triage.rules.PgRuleStore;
import org.vinecellar.store.triage.rules.RuleApplying;
import org.vinecellar.store.triage.tickets.PgTicketStore;
import org.vinecellar.store.trust.PgTrustStore;
import org.vinecellar.store.trust.StreamLearning;
import org.vinecellar.store.trust.folding.PgFoldingStore;
import org.vinecellar.store.trust.grid.PgGridStore;
import org.vinecellar.store.trust.ranks.PgRankStore;
import org.vinecellar.store.trust.ranks.StreamCounting;
import org.vinecellar.store.work.PgWorkStore;
import org.vinecellar.store.work.WorkKind;

/** The one way in: hands out core's ports on a database that Flyway has brought up to date. */
public final class Stores {
  private final Sql sql;
  private final Sql uploads;
  private final Sql watch;
  private final BlobStore blobs;
  private final Executor background;
  private final long maxAttachmentBytes;
  private final Looks looks;

  /**
   * @param dataSource a pool for all but uploads
   * @param uploads a pool with two connections for every upload at a time: who is let in never
   *     waits for anybody outside
   * @param watch a pool of two, for those who must not wait: one listens, one asks how things are
   * @param background runs one short task at a time for each upload that is under way, at once
   * @param maxAttachmentBytes of one attachment; a larger one is named but not kept
   * @param patience how long one look through what a filter asks may take
   */
  public Stores(
      DataSource dataSource,
      DataSource uploads,
      DataSource watch,
      Executor background,
      long maxAttachmentBytes,
      Duration patience) {
    this.maxAttachmentBytes = maxAttachmentBytes;
    this.sql = new Sql(dataSource);
    this.looks = new Looks(sql, patience);
    this.blobs = new PgBlobStore(sql);
    this.uploads = new Sql(uploads);
    this.watch = new Sql(watch);
    this.background = background;
  }

  /** Uploads. */
  public IngestStore ingest() {
    return new PgIngestStore(sql, uploads, blobs, background, maxAttachmentBytes);
  }

  /** Parts while they come. */
  public LiveStore live() {
    return new PgLiveStore(sql, new PgIngestStore(sql, sql, blobs, background, maxAttachmentBytes));
  }

  /** Folders of HTML. */
  public BundleStore bundles() {
    return new PgBundleStore(sql, uploads, blobs);
  }

  /** Accounts, invitations and members. */
  public PeopleStore people() {
    return new PgPeopleStore(sql);
  }

  /** What this database is and how it does. */
  public DatabaseWatch watch() {
    return new PgDatabaseWatch(watch);
  }

  /** Notes and set outcomes. */
  public EditStore edits() {
    return new PgEditStore(sql);
  }

  /** News of runs. */
  public RunEvents events() {
    return new PgRunEvents(watch);
  }

  /** Work that follows. */
  public WorkStore work() {
    return new PgWorkStore(
        sql,
        Map.ofEntries(
            Map.entry(WorkKind.COMPARE_RUN, RunLedger::compareAgain),
            Map.entry(WorkKind.EXPLAIN_RUN, RunExplaining::explain),
            Map.entry(WorkKind.CARRY_GROUP, Carrying::group),
            Map.entry(WorkKind.CARRY_RUN, Carrying::run),
            Map.entry(WorkKind.REGROUP, PgDeskStore::regroup),
            Map.entry(WorkKind.APPLY_RULES, RuleApplying::run),
            Map.entry(WorkKind.REMOVE_RUN, RunRemoval::step),
            Map.entry(WorkKind.REMOVE_STREAM, PgRemovalStore::removeRuns),
            Map.entry(WorkKind.MOVE_STREAM, StreamMove::moveRuns),
            Map.entry(WorkKind.LEARN_RUN, StreamLearning::run),
            Map.entry(WorkKind.LEARN_STREAM, StreamLearning::anew),
            Map.entry(WorkKind.COUNT_STREAM, StreamCounting::count)));
  }

  /** Proving what is kept summed up. */
  public SumProof sumProof() {
    return new PgSumProof(sql);
  }

  /** Taking runs and streams away. */
  public RemovalStore removal() {
    return new PgRemovalStore(sql);
  }

  /** Renaming streams and moving runs. */
  public MoveStore moves() {
    return new PgMoveStore(sql);
  }

  /** Groups of failures, and decisions. */
  public TriageStore triage() {
    return new PgTriageStore(sql);
  }

  /** What projects say of their code. */
  public CodeStore code() {
    return new PgCodeStore(sql);
  }

  /** Tickets of failure groups. */
  public TicketStore tickets() {
    return new PgTicketStore(sql);
  }

  /** What is known of tests. */
  public TrustStore trust() {
    return new PgTrustStore(sql);
  }

  /** Tests by runs. */
  public GridStore grid() {
    return new PgGridStore(looks);
  }

  /** Tests with made-up names. */
  public FoldingStore folding() {
    return new PgFoldingStore(sql);
  }

  /** Tests by their figures. */
  public RankStore ranks() {
    return new PgRankStore(sql, looks);
  }

  /** Tests whose failures fail no gate for a while. */
  public QuarantineStore quarantine() {
    return new PgQuarantineStore(sql);
  }

  /** What needs somebody today. */
  public TodayStore today() {
    return new PgTodayStore(sql);
  }

  /** Kinds of causes. */
  public CategoryStore categories() {
    return new PgCategoryStore(sql);
  }

  /** What explains failures without a person. */
  public RuleStore rules() {
    return new PgRuleStore(sql);
  }

  /** Failure groups over all runs. */
  public DeskStore desk() {
    return new PgDeskStore(sql, looks);
  }

  /** Streams, runs and results. */
  public RunStore runs() {
    return new PgRunStore(sql, blobs, looks);
  }

  /** Boards. */
  public BoardStore boards() {
    return new PgBoardStore(sql);
  }

  /** Failures for boards. */
  public FailureFacts failureFacts() {
    return new PgFailureFacts(looks);
  }

  /** Filters under a name. */
  public SavedFilterStore savedFilters() {
    return new PgSavedFilterStore(sql);
  }

  /** Sums for boards. */
  public BoardFacts boardFacts() {
    return new PgBoardFacts(looks);
  }

  /** What reports are made of. */
  public ReportFacts reportFacts() {
    return new PgReportFacts(looks);
  }

  /** Projects, and who is what in them. */
  public ProjectStore projects() {
    return new PgProjectStore(sql);
  }

  /** Tokens of projects and of people. */
  public TokenStore tokens() {
    return new PgTokenStore(sql);
  }

  /** Who is signed in. */
  public SessionStore sessions() {
    return new PgSessionStore(sql);
  }

  /** Tries to sign in. */
  public SignInTries tries() {
    return new PgSignInTries(sql);
  }

  /** Secrets of the service itself. */
  public ServiceSecrets secrets() {
    return new PgServiceSecrets(sql);
  }
}
