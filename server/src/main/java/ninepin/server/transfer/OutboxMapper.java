package ninepin.server.transfer;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import ninepin.doors.store.Outgoing;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The table {@code outbox}. */
@Mapper
public interface OutboxMapper {

    /** How far a file has come. */
    enum State {
        /** To be uploaded. */
        WAITING,
        /** Uploaded whole under its hidden name. */
        UPLOADED,
        /** It has its own name; the copy here may still be there. */
        SENT,
        /** Sent, and the copy here is removed. */
        DONE,
        /** Taken back before it was sent. */
        CANCELLED,
        /** Taken back after it was sent. */
        REMOVED,
        /** Was to be taken back, and had been changed. */
        CHANGED,
        /** Was to be taken back, and was not there any more. */
        GONE
    }

    /** A file that is to be sent. */
    record NewFile(
            long run,
            int leg,
            int number,
            String root,
            String folder,
            String name,
            String path,
            String fingerprint,
            boolean replace,
            Instant at) {}

    /**
     * A file of the outbox.
     *
     * @param number its number in the run, from 1
     * @param hidden the name that it was last uploaded under; null before the first attempt
     * @param owner the process that is or was at it, or null
     * @param nextAt when it is tried next; null while it waits for a person
     */
    record OutboxRow(
            long id,
            long runId,
            int leg,
            int number,
            String root,
            String folder,
            String name,
            String filePath,
            String fingerprint,
            boolean mayReplace,
            State state,
            String hidden,
            int attempt,
            String owner,
            Instant claimedAt,
            Instant nextAt,
            int tries,
            String code,
            String trouble,
            Instant sentAt) {

        Path file() {
            return Path.of(filePath);
        }

        Outgoing outgoing(String hiddenNow) {
            return new Outgoing(file(), name, mayReplace, state == State.UPLOADED, hidden, hiddenNow);
        }

        boolean unsent() {
            return state == State.WAITING || state == State.UPLOADED;
        }
    }

    /** Files of one place of a run, which are sent in their order. */
    record Group(long runId, int leg, String root, String folder) {

        /** What is done with them is done one after the other. */
        String queue() {
            return "files of run " + runId + ", place " + leg;
        }
    }

    /** A run with files that could not be sent. */
    record Stuck(long runId, long files, String root, String folder, String trouble, Instant since) {}

    String UNSENT = "state IN ('WAITING', 'UPLOADED')";
    String SELECT =
            "SELECT id, run_id, leg, number, root, folder, name, file_path, fingerprint, may_replace, state, hidden,"
                    + " attempt, owner, claimed_at, next_at, tries, code, trouble, sent_at FROM outbox ";

    @Insert("<script>INSERT INTO outbox (run_id, leg, number, root, folder, name, file_path, fingerprint, may_replace,"
            + " state, next_at, made_at) VALUES <foreach collection='files' item='f' separator=','>(#{f.run}, #{f.leg},"
            + " #{f.number}, #{f.root}, #{f.folder}, #{f.name}, #{f.path}, #{f.fingerprint}, #{f.replace}, 'WAITING',"
            + " #{f.at}, #{f.at})</foreach> ON DUPLICATE KEY UPDATE id = id</script>")
    void add(@Param("files") List<NewFile> files);

    /** What has files whose time has come, the oldest first. */
    @Select("SELECT run_id, leg, root, folder FROM outbox WHERE " + UNSENT
            + " AND next_at <= #{now} GROUP BY run_id, leg, root, folder ORDER BY MIN(id) LIMIT 100")
    List<Group> due(Instant now);

    @Select(SELECT + "WHERE run_id = #{run} AND leg = #{leg} AND " + UNSENT
            + " AND next_at <= #{now} AND number > #{after} ORDER BY number LIMIT 200")
    List<OutboxRow> dueOf(long run, int leg, Instant now, int after);

    @Select(SELECT + "WHERE run_id = #{run} AND leg = #{leg} AND number > #{after} ORDER BY number LIMIT 500")
    List<OutboxRow> of(long run, int leg, int after);

    @Select(SELECT + "WHERE run_id = #{run} AND leg = #{leg} AND number = #{number}")
    Optional<OutboxRow> find(long run, int leg, int number);

    /** Of those that were to be taken back, some that were left. */
    @Select(SELECT
            + "WHERE run_id = #{run} AND leg = #{leg} AND state IN ('CHANGED', 'GONE') ORDER BY number LIMIT #{most}")
    List<OutboxRow> left(long run, int leg, int most);

    @Select("SELECT COUNT(*) FROM outbox WHERE run_id = #{run} AND leg = #{leg}")
    int all(long run, int leg);

    @Select("SELECT COUNT(*) FROM outbox WHERE run_id = #{run} AND leg = #{leg} AND state = #{state}")
    int count(long run, int leg, State state);

    @Select("SELECT COUNT(*) FROM outbox WHERE run_id = #{run} AND leg = #{leg} AND " + UNSENT)
    int unsent(long run, int leg);

    /** A process takes a file; 0 where another one was quicker. */
    @Update("UPDATE outbox SET attempt = attempt + 1, owner = #{owner}, claimed_at = #{at} WHERE id = #{id}"
            + " AND attempt = #{attempt} AND " + UNSENT)
    int claim(long id, int attempt, String owner, Instant at);

    /** 0 where another process has it by now, or it was taken back. */
    @Update("UPDATE outbox SET hidden = #{hidden} WHERE id = #{id} AND attempt = #{attempt} AND state = 'WAITING'")
    int uploading(long id, int attempt, String hidden);

    /** 0 where another process has it by now, or it was taken back. */
    @Update("UPDATE outbox SET state = 'UPLOADED' WHERE id = #{id} AND attempt = #{attempt} AND state = 'WAITING'")
    int uploaded(long id, int attempt);

    @Update(
            "UPDATE outbox SET state = 'SENT', sent_at = #{at}, owner = NULL, next_at = NULL, code = NULL, trouble = NULL"
                    + " WHERE id = #{id} AND " + UNSENT)
    int sent(long id, Instant at);

    /** The copies here of files that were sent. */
    @Select(SELECT + "WHERE state = 'SENT' LIMIT 500")
    List<OutboxRow> toRemoveHere();

    @Update("UPDATE outbox SET state = #{to} WHERE id = #{id} AND state = #{from}")
    int become(long id, State from, State to);

    /**
     * Puts a file off.
     *
     * @param nextAt when it is tried again; null where a person has to say so
     */
    @Update(
            "UPDATE outbox SET owner = NULL, tries = tries + 1, code = #{code}, trouble = #{trouble}, next_at = #{nextAt}"
                    + " WHERE id = #{id} AND " + UNSENT)
    void putOff(long id, String code, String trouble, Instant nextAt);

    /** Puts off all files for a folder that are due. */
    @Update("UPDATE outbox SET tries = tries + 1, code = #{code}, trouble = #{trouble}, next_at = #{nextAt}"
            + " WHERE root = #{root} AND folder = #{folder} AND " + UNSENT + " AND next_at <= #{now}")
    void putOffAll(String root, String folder, String code, String trouble, Instant nextAt, Instant now);

    /** How often the folder was tried since it last worked. */
    @Select("SELECT COALESCE(MAX(tries), 0) FROM outbox WHERE root = #{root} AND folder = #{folder} AND " + UNSENT)
    int tries(String root, String folder);

    /** All that a run still has to send is tried at once. */
    @Update("UPDATE outbox SET next_at = #{now} WHERE run_id = #{run} AND " + UNSENT)
    int sendNow(long run, Instant now);

    /** Files that are not uploaded will not be; an upload under way is not put on record any more. */
    @Update(
            "UPDATE outbox SET state = 'CANCELLED', attempt = attempt + 1, next_at = NULL WHERE run_id = #{run} AND leg = #{leg}"
                    + " AND state = 'WAITING'")
    int cancel(long run, int leg);

    /** Forgets the files of a run, which is taken back. */
    @Delete("DELETE FROM outbox WHERE run_id = #{run}")
    void forget(long run);

    /** The runs with files that were tried and could not be sent. */
    @Select("SELECT run_id, COUNT(*) AS files, MIN(root) AS root, MIN(folder) AS folder, MIN(trouble) AS trouble,"
            + " MIN(made_at) AS since FROM outbox WHERE " + UNSENT + " AND trouble IS NOT NULL GROUP BY run_id")
    List<Stuck> stuck();
}
