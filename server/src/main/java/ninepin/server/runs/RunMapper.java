package ninepin.server.runs;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.Tally;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Runs and what happened to them. */
@Mapper
public interface RunMapper {

    /** A run as it is kept. */
    record RunRow(
            long id,
            String runKey,
            long jobId,
            String jobName,
            String jobTitle,
            int version,
            RunState state,
            String startedBy,
            String fileName,
            String filePath,
            String fileHome,
            long fileSize,
            String fingerprint,
            String asked,
            LocalDate today,
            Instant createdAt,
            Instant startedAt,
            Instant endedAt,
            long busyMillis,
            int restarts,
            String code,
            String message,
            long nextOffset,
            long commits,
            long journalImported,
            long recordsRead,
            long added,
            long changed,
            long unchanged,
            long removed,
            long rejected,
            long setAside,
            long blank,
            long notes,
            long delivered,
            long withoutRows,
            String shares,
            long acceptedRead,
            long acceptedRejected,
            long acceptedNotes,
            long haltedRead,
            long haltedRejected,
            long haltedNotes,
            Long parentRun,
            Integer onlyLeg) {}

    /** A run to be. */
    class NewRun {
        public long id;
        public String runKey;
        public long jobId;
        public int version;
        public String startedBy;
        public String fileName;
        public String filePath;
        public String fileHome;
        public long fileSize;
        public String asked;
        public LocalDate today;
        public Instant createdAt;
        public Long parentRun;
        public Integer onlyLeg;
    }

    /** Something that happened to a run. */
    record EventRow(Instant at, String kind, String text, long recordsRead) {}

    String SELECT = "SELECT r.id, r.run_key, r.job_id, j.name AS job_name,"
            + " COALESCE(NULLIF(JSON_VALUE(j.draft, '$.title'), ''), j.name) AS job_title, r.version, r.state, r.started_by, r.file_name,"
            + " r.file_path, r.file_home, r.file_size, r.fingerprint, r.asked, r.today, r.created_at, r.started_at,"
            + " r.ended_at, r.busy_millis, r.restarts, r.code, r.message, r.next_offset, r.commits, r.journal_imported,"
            + " r.records_read, r.added, r.changed, r.unchanged, r.removed, r.rejected, r.set_aside, r.blank, r.notes, r.delivered, r.without_rows, r.shares,"
            + " r.accepted_read, r.accepted_rejected, r.accepted_notes, r.halted_read, r.halted_rejected,"
            + " r.halted_notes, r.parent_run, r.only_leg FROM run r JOIN job j ON j.id = r.job_id ";

    @Select(SELECT + "WHERE r.id = #{id}")
    Optional<RunRow> find(long id);

    @Select("<script>" + SELECT + "<where>"
            + "<if test='job != null'>j.name = #{job}</if>"
            + "<if test='state != null'> AND r.state = #{state}</if>"
            + "<if test='before != null'> AND r.id &lt; #{before}</if>"
            + "</where> ORDER BY r.id DESC LIMIT #{most}</script>")
    List<RunRow> page(
            @Param("job") String job,
            @Param("state") RunState state,
            @Param("before") Long before,
            @Param("most") int most);

    @Select(SELECT + "WHERE r.delivered > 0 ORDER BY r.id DESC LIMIT #{most}")
    List<RunRow> delivered(int most);

    /** The runs that rejects of a run were sent again with. */
    @Select(SELECT + "WHERE r.parent_run = #{id} ORDER BY r.id")
    List<RunRow> ofParent(long id);

    @Select(SELECT + "WHERE r.state = #{state} ORDER BY r.id")
    List<RunRow> inState(RunState state);

    @Select(SELECT + "WHERE r.created_at >= #{since} OR r.ended_at >= #{since} OR r.state IN ('RUNNING', 'WAITING')"
            + " ORDER BY r.id")
    List<RunRow> since(Instant since);

    @Select(SELECT + "WHERE r.job_id = #{jobId} AND r.state = 'WAITING' ORDER BY r.id LIMIT 1")
    Optional<RunRow> nextWaiting(long jobId);

    @Select("SELECT MIN(id) FROM run WHERE job_id = #{jobId} AND fingerprint = #{fingerprint} AND id <> #{id}"
            + " AND state <> 'REFUSED' AND (commits > 0 OR state = 'RUNNING')")
    Long sameFile(long jobId, String fingerprint, long id);

    @Insert("INSERT INTO run (run_key, job_id, version, state, started_by, file_name, file_path, file_home, file_size,"
            + " asked, today, created_at, parent_run, only_leg) VALUES (#{runKey}, #{jobId}, #{version}, 'WAITING', #{startedBy}, #{fileName},"
            + " #{filePath}, #{fileHome}, #{fileSize}, #{asked}, #{today}, #{createdAt}, #{parentRun}, #{onlyLeg})")
    @Options(useGeneratedKeys = true, keyProperty = "id")
    void add(NewRun run);

    @Update("UPDATE run SET state = 'RUNNING', started_at = COALESCE(started_at, #{at}), ended_at = NULL, code = NULL,"
            + " message = NULL, fingerprint = #{fingerprint} WHERE id = #{id}")
    void begin(long id, Instant at, String fingerprint);

    @Update("UPDATE run SET state = #{state}, ended_at = #{at}, code = #{code}, message = #{message},"
            + " file_path = #{path}, busy_millis = busy_millis + #{millis},"
            + " live_millis = 0 WHERE id = #{id}")
    void end(long id, RunState state, Instant at, String code, String message, String path, long millis);

    @Update(
            "UPDATE run SET next_offset = #{offset}, commits = #{commits}, records_read = #{t.read}, added = #{t.added},"
                    + " changed = #{t.changed}, unchanged = #{t.unchanged}, removed = #{t.removed}, rejected = #{t.rejected}, set_aside = #{t.setAside},"
                    + " blank = #{t.blank}, notes = #{t.notes}, delivered = #{t.delivered},"
                    + " without_rows = #{t.withoutRows}, shares = #{shares} WHERE id = #{id}")
    void account(
            @Param("id") long id,
            @Param("offset") long offset,
            @Param("commits") long commits,
            @Param("t") ninepin.core.deliver.Tally tally,
            @Param("shares") String shares);

    /** Keeps others from the account of a run until the transaction ends. */
    @Select("SELECT id FROM run WHERE id = #{id} FOR UPDATE")
    long lock(long id);

    @Update("UPDATE run SET journal_imported = #{to} WHERE id = #{id} AND journal_imported = #{from}")
    int imported(long id, long from, long to);

    @Update("UPDATE run SET state = 'WAITING', version = #{version}, restarts = restarts + 1, file_path = #{path},"
            + " accepted_read = #{acceptedRead}, accepted_rejected = #{acceptedRejected}, accepted_notes = #{acceptedNotes} WHERE id = #{id}"
            + " AND state IN ('STOPPED', 'HALTED', 'FAILED', 'INTERRUPTED', 'TAKEN_BACK')")
    int requeue(long id, int version, String path, long acceptedRead, long acceptedRejected, long acceptedNotes);

    /** What it had delivered is not there any more. */
    @Update("UPDATE run SET state = 'TAKEN_BACK', ended_at = #{at}, code = NULL, message = #{message}, next_offset = 0,"
            + " commits = 0, records_read = 0, added = 0, changed = 0, unchanged = 0, removed = 0, rejected = 0,"
            + " set_aside = 0, blank = 0, notes = 0, delivered = 0, without_rows = 0, shares = NULL WHERE id = #{id}")
    void takenBack(long id, Instant at, String message);

    @Update("UPDATE run SET live_millis = #{millis} WHERE id = #{id}")
    void underWay(long id, long millis);

    @Update("UPDATE run SET state = 'INTERRUPTED', ended_at = #{at}, message = #{message},"
            + " busy_millis = busy_millis + live_millis, live_millis = 0 WHERE id = #{id}")
    void interrupt(long id, Instant at, String message);

    /** Keeps the account at which a limit halted a run. */
    @Update(
            "UPDATE run SET halted_read = #{t.read}, halted_rejected = #{t.rejected}, halted_notes = #{t.notes} WHERE id = #{id}")
    void halted(@Param("id") long id, @Param("t") Tally t);

    @Insert(
            "INSERT INTO run_event (run_id, at, kind, text, records_read) VALUES (#{id}, #{at}, #{kind}, #{text}, #{read})")
    void event(long id, Instant at, String kind, String text, long read);

    @Select("SELECT at, kind, text, records_read FROM run_event WHERE run_id = #{id} ORDER BY at")
    List<EventRow> events(long id);

    @Select("SELECT file_path FROM run WHERE job_id = #{jobId} AND state IN ('WAITING', 'RUNNING', 'INTERRUPTED')")
    List<String> filesUnderWay(long jobId);
}
