package ninepin.server.runs;

import java.nio.file.Files;
import java.nio.file.Path;
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
            long openRecords,
            long withoutRows,
            String shares,
            long acceptedRead,
            long acceptedRejected,
            long acceptedNotes,
            long haltedRead,
            long haltedRejected,
            long haltedNotes,
            Long parentRun,
            Integer onlyLeg,
            String owner,
            boolean leaseOver,
            long epoch,
            boolean stopRequested,
            Instant resumeAt,
            int pauses,
            String movingTo,
            Long undoes,
            RunState stateBefore,
            String outcomes) {

        /** Whether it takes another run back. */
        public boolean takesBack() {
            return undoes != null;
        }

        /** Whether any of its places has rows of it. */
        public boolean hasDelivered() {
            return added + changed + unchanged + removed > 0;
        }

        /** Where its file is, also in the moment in which it is moved. */
        public Path file() {
            Path file = Path.of(filePath);
            return movingTo != null && Files.notExists(file) ? Path.of(movingTo) : file;
        }

        /** Its file where it is kept still; one that takes another run back never had one. */
        public Optional<Path> keptFile() {
            return filePath.isEmpty() ? Optional.empty() : Optional.of(file()).filter(Files::isRegularFile);
        }
    }

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
        public Long undoes;
        public RunState state = RunState.WAITING;
        /** Where its file is to be moved, or null. */
        public String movingTo;
    }

    /** Something that happened to a run. */
    record EventRow(Instant at, String kind, String text, long recordsRead) {}

    String SELECT = "SELECT r.id, r.run_key, r.job_id, j.name AS job_name,"
            + " COALESCE(NULLIF(JSON_VALUE(j.draft, '$.title'), ''), j.name) AS job_title, r.version, r.state, r.started_by, r.file_name,"
            + " r.file_path, r.file_home, r.file_size, r.fingerprint, r.asked, r.today, r.created_at, r.started_at,"
            + " r.ended_at, r.busy_millis, r.restarts, r.code, r.message, r.next_offset, r.commits,"
            + " r.records_read, r.added, r.changed, r.unchanged, r.removed, r.rejected, r.set_aside, r.blank, r.notes, r.delivered, r.open_records, r.without_rows, r.shares,"
            + " r.accepted_read, r.accepted_rejected, r.accepted_notes, r.halted_read, r.halted_rejected,"
            + " r.halted_notes, r.parent_run, r.only_leg, r.owner, COALESCE(NOW(3) > r.lease_until, TRUE) AS lease_over, r.epoch,"
            + " r.stop_requested, r.resume_at, r.pauses, r.moving_to, r.undoes, r.state_before, r.outcomes FROM run r JOIN job j ON j.id = r.job_id ";

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

    @Select(SELECT + "WHERE r.added + r.changed + r.unchanged + r.removed > 0 ORDER BY r.id DESC LIMIT #{most}")
    List<RunRow> delivered(int most);

    /** The runs that rejects of a run were sent again with, and those that take it back. */
    @Select(SELECT + "WHERE r.parent_run = #{id} OR r.undoes = #{id} ORDER BY r.id")
    List<RunRow> ofParent(long id);

    @Select(SELECT + "WHERE r.state = #{state} ORDER BY r.id")
    List<RunRow> inState(RunState state);

    @Select(SELECT
            + "WHERE r.created_at >= #{since} OR r.ended_at >= #{since} OR r.state IN ('RUNNING', 'WAITING', 'PAUSED', 'TAKING_BACK')"
            + " ORDER BY r.id")
    List<RunRow> since(Instant since);

    /** The jobs that have a run whose turn may have come, the one that has waited longest first. */
    @Select("SELECT job_id FROM run WHERE state = 'WAITING' OR state = 'PAUSED' AND resume_at <= NOW(3)"
            + " GROUP BY job_id ORDER BY MIN(id)")
    List<Long> jobsWithWork();

    /** Keeps others from taking up a run of a job until the transaction ends. */
    @Select("SELECT id FROM job WHERE id = #{jobId} FOR UPDATE")
    Optional<Long> lockJob(long jobId);

    /** Whether a run of a job keeps the others waiting: it is under way, or waits for its surroundings. */
    @Select("SELECT COUNT(*) FROM run WHERE job_id = #{jobId}"
            + " AND (state = 'RUNNING' OR state = 'PAUSED' AND resume_at > NOW(3))")
    int holdUp(long jobId);

    /** The run whose turn it is: one that has waited for its surroundings, then the oldest. */
    @Select(SELECT
            + "WHERE r.job_id = #{jobId} AND (r.state = 'WAITING' OR r.state = 'PAUSED' AND r.resume_at <= NOW(3))"
            + " ORDER BY r.state = 'WAITING', r.id LIMIT 1")
    Optional<RunRow> next(long jobId);

    /** Whether runs of a job are in the way of doing something with one of them. */
    @Select(
            "SELECT COUNT(*) FROM run WHERE job_id = #{jobId} AND id <> #{id} AND state IN ('WAITING', 'RUNNING', 'PAUSED')")
    int others(long jobId, long id);

    /** Other runs of a job on the same bytes that were taken up. */
    @Select(SELECT
            + "WHERE r.job_id = #{jobId} AND r.fingerprint = #{fingerprint} AND r.id <> #{id} AND r.undoes IS NULL"
            + " AND r.state NOT IN ('REFUSED', 'TAKEN_BACK') AND (r.commits > 0 OR r.epoch > 0) ORDER BY r.id")
    List<RunRow> ofSameFile(long jobId, String fingerprint, long id);

    @Insert("INSERT INTO run (run_key, job_id, version, state, started_by, file_name, file_path, file_home, file_size,"
            + " asked, today, created_at, parent_run, only_leg, undoes, moving_to) VALUES (#{runKey}, #{jobId}, #{version},"
            + " #{state}, #{startedBy}, #{fileName}, #{filePath}, #{fileHome}, #{fileSize}, #{asked}, #{today}, #{createdAt},"
            + " #{parentRun}, #{onlyLeg}, #{undoes}, #{movingTo})")
    @Options(useGeneratedKeys = true, keyProperty = "id")
    void add(NewRun run);

    String FROM =
            " AND state IN <foreach collection='change.from' item='s' open='(' separator=',' close=')'>#{s}</foreach>";

    /** A process takes a run up; its epoch is one more than before. */
    @Update("<script>UPDATE run SET state = #{change.to}, owner = #{owner}, epoch = epoch + 1,"
            + " lease_until = NOW(3) + INTERVAL #{seconds} SECOND, started_at = COALESCE(started_at, #{at}), ended_at = NULL,"
            + " resume_at = NULL WHERE id = #{id} AND epoch = #{epoch}" + FROM + "</script>")
    int takeUp(
            @Param("id") long id,
            @Param("epoch") long epoch,
            @Param("owner") String owner,
            @Param("seconds") int seconds,
            @Param("at") Instant at,
            @Param("change") RunChange change);

    /** Why it waited is over. */
    @Update("UPDATE run SET code = NULL, message = NULL WHERE id = #{id} AND epoch = #{epoch} AND state = 'RUNNING'")
    void underWayAgain(long id, long epoch);

    @Update("UPDATE run SET fingerprint = #{fingerprint} WHERE id = #{id}")
    void fingerprint(long id, String fingerprint);

    /** Says of all runs of an owner that it is still there, although it may not have been heard of for a while. */
    @Update(
            "UPDATE run SET lease_until = NOW(3) + INTERVAL #{seconds} SECOND WHERE owner = #{owner} AND state = 'RUNNING'")
    void renew(String owner, int seconds);

    /** The runs that an owner has. */
    @Select("SELECT id FROM run WHERE owner = #{owner} AND state = 'RUNNING'")
    List<Long> owned(String owner);

    /**
     * A run comes to an end, or to a break, under the owner that took it up.
     *
     * @param movingTo where its file is to be moved, or null
     * @return 0 where another has taken it up meanwhile
     */
    @Update("<script>UPDATE run SET state = #{change.to}, owner = NULL, lease_until = NULL, stop_requested = FALSE,"
            + " ended_at = IF(#{change.to} = 'WAITING', NULL, #{at}), code = #{code}, message = #{message}, moving_to = COALESCE(#{movingTo}, moving_to),"
            + " busy_millis = busy_millis + #{millis}, live_millis = IF(#{millis} = 0, live_millis, 0) WHERE id = #{id}"
            + " AND epoch = #{epoch}" + FROM + "</script>")
    int end(
            @Param("id") long id,
            @Param("epoch") long epoch,
            @Param("change") RunChange change,
            @Param("at") Instant at,
            @Param("code") String code,
            @Param("message") String message,
            @Param("movingTo") String movingTo,
            @Param("millis") long millis);

    /**
     * A run waits for its surroundings.
     *
     * @param anew whether it has got on since it waited last
     * @param first the seconds of the first wait; each further one is twice as long
     * @param most the longest wait
     */
    @Update("<script>UPDATE run SET state = #{change.to}, owner = NULL, lease_until = NULL, code = #{code},"
            + " message = #{message}, pauses = IF(#{anew}, 1, pauses + 1), resume_at = NOW(3)"
            + " + INTERVAL LEAST(#{most}, #{first} * POW(2, LEAST(20, IF(#{anew}, 0, pauses - 1)))) SECOND,"
            + " busy_millis = busy_millis + #{millis}, live_millis = 0 WHERE id = #{id} AND epoch = #{epoch}" + FROM
            + "</script>")
    int pause(
            @Param("id") long id,
            @Param("epoch") long epoch,
            @Param("change") RunChange change,
            @Param("code") String code,
            @Param("message") String message,
            @Param("anew") boolean anew,
            @Param("first") int first,
            @Param("most") int most,
            @Param("millis") long millis);

    /** It need not wait any longer. */
    @Update("UPDATE run SET resume_at = NOW(3) WHERE id = #{id} AND state = 'PAUSED'")
    int resumeNow(long id);

    /** A person wants a run under way to stop, whoever has it. */
    @Update("UPDATE run SET stop_requested = TRUE WHERE id = #{id} AND state = 'RUNNING'")
    int requestStop(long id);

    /** The file of a run is where it was to be moved. */
    @Update("UPDATE run SET file_path = #{path}, moving_to = NULL WHERE id = #{id} AND moving_to = #{movingTo}")
    int moved(long id, String movingTo, String path);

    @Update("UPDATE run SET moving_to = #{other} WHERE id = #{id} AND moving_to = #{movingTo}")
    int moveElsewhere(long id, String movingTo, String other);

    @Select(SELECT + "WHERE r.moving_to IS NOT NULL ORDER BY r.id")
    List<RunRow> moving();

    @Update(
            "UPDATE run SET next_offset = #{offset}, commits = #{commits}, records_read = #{t.read}, added = #{t.added},"
                    + " changed = #{t.changed}, unchanged = #{t.unchanged}, removed = #{t.removed}, rejected = #{t.rejected}, set_aside = #{t.setAside},"
                    + " blank = #{t.blank}, notes = #{t.notes}, delivered = #{t.delivered}, open_records = #{open},"
                    + " without_rows = #{t.withoutRows}, shares = #{shares} WHERE id = #{id} AND epoch = #{epoch}"
                    + " AND commits <= #{commits}")
    int account(
            @Param("id") long id,
            @Param("epoch") long epoch,
            @Param("offset") long offset,
            @Param("commits") long commits,
            @Param("t") Tally tally,
            @Param("open") long open,
            @Param("shares") String shares);

    /** Keeps others from the account of a run until the transaction ends. */
    @Select("SELECT id FROM run WHERE id = #{id} FOR UPDATE")
    long lock(long id);

    /** The same as long as the run has not been taken up again; empty where it has. */
    @Select("SELECT id FROM run WHERE id = #{id} AND epoch = #{epoch} FOR UPDATE")
    Optional<Long> hold(long id, long epoch);

    /** A person restarts a run; its file is moved back to where it is worked on. */
    @Update("<script>UPDATE run SET state = #{change.to}, version = #{version}, restarts = restarts + 1,"
            + " moving_to = #{movingTo}, stop_requested = FALSE, pauses = 0, accepted_read = #{accepted.read},"
            + " accepted_rejected = #{accepted.rejected}, accepted_notes = #{accepted.notes} WHERE id = #{id}" + FROM
            + "</script>")
    int requeue(
            @Param("id") long id,
            @Param("version") int version,
            @Param("movingTo") String movingTo,
            @Param("accepted") Tally accepted,
            @Param("change") RunChange change);

    /** Another run is to take it back. */
    @Update("<script>UPDATE run SET state_before = state, state = #{change.to} WHERE id = #{id}" + FROM + "</script>")
    int takeBack(@Param("id") long id, @Param("change") RunChange change);

    /** Nothing of it was taken back, and nobody wants to any more. */
    @Update("UPDATE run SET state = state_before, state_before = NULL WHERE id = #{id} AND state = 'TAKING_BACK'")
    int keep(long id);

    /** What came of taking a run back, so far. */
    @Update("UPDATE run SET outcomes = #{outcomes}, removed = #{removed} WHERE id = #{id}")
    void outcomes(long id, String outcomes, long removed);

    /** What it had delivered is not there any more. */
    @Update(
            "UPDATE run SET state = 'TAKEN_BACK', state_before = NULL, code = NULL, message = #{message}, next_offset = 0,"
                    + " commits = 0, records_read = 0, added = 0, changed = 0, unchanged = 0, removed = 0, rejected = 0,"
                    + " set_aside = 0, blank = 0, notes = 0, delivered = 0, open_records = 0, without_rows = 0, shares = NULL WHERE id = #{id}"
                    + " AND state = 'TAKING_BACK'")
    int takenBack(long id, String message);

    @Update("UPDATE run SET live_millis = #{millis} WHERE id = #{id} AND epoch = #{epoch}")
    void underWay(long id, long epoch, long millis);

    /** The time that a process was at work which did not say so at its end. */
    @Update("UPDATE run SET busy_millis = busy_millis + live_millis, live_millis = 0 WHERE id = #{id}")
    void restoreMillis(long id);

    /** Keeps the account at which a limit halted a run. */
    @Update(
            "UPDATE run SET halted_read = #{t.read}, halted_rejected = #{t.rejected}, halted_notes = #{t.notes} WHERE id = #{id}")
    void halted(@Param("id") long id, @Param("t") Tally t);

    @Insert(
            "INSERT INTO run_event (run_id, at, kind, text, records_read) VALUES (#{id}, #{at}, #{kind}, #{text}, #{read})")
    void event(long id, Instant at, String kind, String text, long read);

    @Select("SELECT kind FROM run_event WHERE run_id = #{id} ORDER BY at DESC LIMIT 1")
    Optional<String> lastEvent(long id);

    @Select("SELECT at, kind, text, records_read FROM run_event WHERE run_id = #{id} ORDER BY at")
    List<EventRow> events(long id);
}
