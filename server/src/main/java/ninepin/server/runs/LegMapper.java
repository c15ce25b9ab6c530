package ninepin.server.runs;

import java.time.Instant;
import java.util.List;
import ninepin.core.run.Fate;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The accounts of the places that a run delivers to, and what applications answered. */
@Mapper
interface LegMapper {

    /** A leg of a run. */
    record LegRow(
            long runId,
            int leg,
            String label,
            String kind,
            RunState state,
            String code,
            String message,
            Instant startedAt,
            Instant endedAt,
            long nextOffset,
            long commits,
            long journalImported,
            long answersImported,
            long sentAgain,
            String account,
            String shares,
            String deliveries,
            boolean complete) {}

    /** How many records targets have refused that would have come to the same. */
    record RefusedRow(Fate fate, long records) {}

    /** What was answered to a document. */
    record AnswerRow(long runId, int leg, long record, String answer) {}

    String COLUMNS = "run_id, leg, label, kind, state, code, message, started_at, ended_at, next_offset, commits,"
            + " journal_imported, answers_imported, sent_again, account, shares, deliveries, complete";

    @Select("SELECT " + COLUMNS + " FROM run_leg WHERE run_id = #{run} ORDER BY leg")
    List<LegRow> of(long run);

    @Insert("INSERT IGNORE INTO run_leg (run_id, leg, label, kind, state, account, deliveries) VALUES (#{run}, #{leg},"
            + " #{label}, #{kind}, 'WAITING', #{account}, #{deliveries})")
    void add(long run, int leg, String label, String kind, String account, String deliveries);

    @Update("UPDATE run_leg SET state = 'RUNNING', started_at = #{at}, ended_at = NULL, code = NULL,"
            + " message = NULL WHERE run_id = #{run} AND leg = #{leg}")
    void begin(long run, int leg, Instant at);

    @Update("UPDATE run_leg SET state = #{state}, ended_at = #{at}, code = #{code}, message = #{message}"
            + " WHERE run_id = #{run} AND leg = #{leg}")
    void end(long run, int leg, RunState state, Instant at, String code, String message);

    @Update(
            "UPDATE run_leg SET next_offset = #{offset}, commits = #{commits}, account = #{account},"
                    + " shares = #{shares}, complete = #{complete}, sent_again = #{again} WHERE run_id = #{run} AND leg = #{leg} AND commits <= #{commits}")
    void account(
            long run, int leg, long offset, long commits, String account, String shares, boolean complete, long again);

    @Select("SELECT fate, COUNT(*) AS records FROM reject WHERE run_id = #{run} AND leg = #{leg} AND by_target"
            + " GROUP BY fate")
    List<RefusedRow> refused(long run, int leg);

    /** Once each, of the places that have committed something. */
    @Select("SELECT fate, COUNT(*) AS records FROM (SELECT r.record, MIN(r.fate) AS fate FROM reject r JOIN run_leg l"
            + " ON l.run_id = r.run_id AND l.leg = r.leg AND l.commits > 0 WHERE r.run_id = #{run} AND r.by_target"
            + " GROUP BY r.record) of GROUP BY fate")
    List<RefusedRow> refusedAnywhere(long run);

    @Update("UPDATE run_leg SET journal_imported = #{to} WHERE run_id = #{run} AND leg = #{leg}"
            + " AND journal_imported = #{from}")
    int imported(long run, int leg, long from, long to);

    @Update("UPDATE run_leg SET answers_imported = #{to} WHERE run_id = #{run} AND leg = #{leg}"
            + " AND answers_imported = #{from}")
    int answersImported(long run, int leg, long from, long to);

    @Update("UPDATE run_leg SET state = 'TAKEN_BACK', next_offset = 0, commits = 0, account = #{account},"
            + " shares = NULL, complete = FALSE"
            + " WHERE run_id = #{run} AND kind <> 'application'")
    void takenBack(long run, String account);

    @Insert("<script>INSERT IGNORE INTO run_answer (run_id, leg, record, answer) VALUES"
            + " <foreach collection='rows' item='a' separator=','>"
            + "(#{a.runId}, #{a.leg}, #{a.record}, #{a.answer})</foreach></script>")
    void addAnswers(@Param("rows") List<AnswerRow> rows);

    @Select("SELECT run_id, leg, record, answer FROM run_answer WHERE run_id = #{run}"
            + " AND (record > #{after} OR record = #{after} AND leg > #{afterPlace})"
            + " ORDER BY record, leg LIMIT #{most}")
    List<AnswerRow> answers(long run, long after, long afterPlace, int most);
}
