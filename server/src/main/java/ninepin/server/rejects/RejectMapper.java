package ninepin.server.rejects;

import java.time.Instant;
import java.util.List;
import ninepin.core.layout.Shown;
import ninepin.server.api.Problems;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Rejects across runs, and what people do with them. */
@Mapper
interface RejectMapper {

    /**
     * Which rejects; a part that is null asks for nothing.
     *
     * @param state {@code open}, {@code resubmitted}, {@code aside}
     * @param who who decided last
     */
    record Filter(
            String state,
            String job,
            Long run,
            String code,
            String reason,
            String field,
            Instant since,
            Instant until,
            String who) {

        private static final List<String> STATES = List.of("open", "resubmitted", "aside");

        public Filter {
            if (state != null && !STATES.contains(state)) {
                throw Problems.unprocessable("There is no state " + Shown.quoted(state) + " of rejects; there are "
                        + String.join(", ", STATES) + ".");
            }
        }
    }

    /** A line of the list. */
    record LineRow(
            long runId,
            int leg,
            long record,
            long document,
            long line,
            String state,
            byte[] raw,
            byte[] corrected,
            String decidedBy,
            Instant decidedAt,
            Long resubmittedRun,
            String jobName,
            String jobTitle,
            long jobId,
            int version,
            String fileName,
            Instant createdAt) {}

    /** A reject, whole. */
    record RejectRow(
            long runId,
            int leg,
            long record,
            long document,
            long line,
            long byteOffset,
            long byteLength,
            boolean byTarget,
            String state,
            byte[] raw,
            byte[] corrected,
            Instant decidedAt,
            String decidedBy,
            String reason,
            Long resubmittedRun) {}

    /** What was said of a reject. */
    record SaidRow(
            long runId,
            int leg,
            long record,
            String code,
            String reason,
            String field,
            long byteOffset,
            int byteLength,
            String message) {}

    /** How often a reason stands among rejects. */
    record ReasonRow(String code, String reason, String field, long count, long runs) {}

    /** What somebody did with a reject. */
    record HistoryRow(
            long runId, int leg, long record, Instant at, String who, String did, String text, byte[] corrected) {}

    /** Where a record of a run of rejects comes from. */
    record OriginRow(long runId, long record, long originRun, long originRecord) {}

    String FROM = " FROM reject r JOIN run n ON n.id = r.run_id JOIN job j ON j.id = n.job_id ";

    String WHERE = "<where>"
            + "<if test='f.state != null'>r.state = #{f.state}</if>"
            + "<if test='f.job != null'> AND j.name = #{f.job}</if>"
            + "<if test='f.run != null'> AND r.run_id = #{f.run}</if>"
            + "<if test='f.since != null'> AND n.created_at &gt;= #{f.since}</if>"
            + "<if test='f.until != null'> AND n.created_at &lt; #{f.until}</if>"
            + "<if test='f.who != null'> AND r.decided_by = #{f.who}</if>"
            + "<if test='f.code != null or f.field != null'> AND EXISTS (SELECT 1 FROM finding g WHERE g.run_id = r.run_id"
            + " AND g.record = r.record AND g.severity &lt;&gt; 'note'"
            + "<if test='f.code != null'> AND g.code = #{f.code}</if>"
            + "<if test='f.reason != null'> AND g.reason = #{f.reason}</if>"
            + "<if test='f.field != null'> AND g.field = #{f.field}</if>)</if>";

    @Select("<script>SELECT r.run_id, r.leg, r.record, r.document, r.line, r.state, LEFT(r.raw, 400) AS raw,"
            + " LEFT(r.corrected, 400) AS corrected, r.decided_by, r.decided_at, r.resubmitted_run, j.name AS job_name,"
            + " COALESCE(NULLIF(JSON_VALUE(j.draft, '$.title'), ''), j.name) AS job_title, j.id AS job_id, n.version,"
            + " n.file_name, n.created_at" + FROM + WHERE
            + "<if test='run != null'> AND (r.run_id &lt; #{run} OR r.run_id = #{run} AND (r.record &gt; #{record}"
            + " OR r.record = #{record} AND r.leg &gt; #{leg}))</if>"
            + "</where> ORDER BY r.run_id DESC, r.record, r.leg LIMIT #{most}</script>")
    List<LineRow> page(
            @Param("f") Filter filter,
            @Param("run") Long run,
            @Param("record") Long record,
            @Param("leg") Long leg,
            @Param("most") int most);

    @Select("<script>SELECT COUNT(*)" + FROM + WHERE + "</where></script>")
    long count(@Param("f") Filter filter);

    @Select("SELECT COUNT(*) FROM reject WHERE run_id = #{run} AND state = 'open'")
    long open(long run);

    @Select("<script>SELECT s.code, s.reason, s.field, COUNT(DISTINCT r.run_id, r.record) AS count,"
            + " COUNT(DISTINCT r.run_id) AS runs" + FROM
            + " JOIN finding s ON s.run_id = r.run_id AND s.record = r.record AND s.severity &lt;&gt; 'note'"
            + " AND s.code &lt;&gt; 'DOC-01' " + WHERE
            + "</where> GROUP BY s.code, s.reason, s.field ORDER BY count DESC LIMIT 60</script>")
    List<ReasonRow> reasons(@Param("f") Filter filter);

    String REJECT =
            "SELECT run_id, leg, record, document, line, byte_offset, byte_length, by_target, state, raw, corrected,"
                    + " decided_at, decided_by, reason, resubmitted_run FROM reject ";

    /** The rejects of a run that nobody has decided about, in the order of the file. */
    @Select(REJECT + "WHERE run_id = #{run} AND state = 'open' ORDER BY leg, record LIMIT #{most}")
    List<RejectRow> openOf(long run, int most);

    /** All records of the documents that some records stand in, in the order of the file. */
    @Select("<script>" + REJECT
            + "WHERE run_id = #{run} AND leg = #{leg} AND document IN (SELECT d.document FROM reject d"
            + " WHERE d.run_id = #{run} AND d.leg = #{leg} AND d.record IN"
            + " <foreach collection='records' item='x' open='(' separator=',' close=')'>#{x}</foreach>)"
            + " ORDER BY record</script>")
    List<RejectRow> documentsOf(@Param("run") long run, @Param("leg") int leg, @Param("records") List<Long> records);

    @Select("<script>SELECT run_id, leg, record, code, reason, field, byte_offset, byte_length, message FROM finding"
            + " WHERE run_id = #{run} AND leg = #{leg} AND severity &lt;&gt; 'note' AND record IN"
            + " <foreach collection='records' item='x' open='(' separator=',' close=')'>#{x}</foreach>"
            + " ORDER BY seq</script>")
    List<SaidRow> said(@Param("run") long run, @Param("leg") int leg, @Param("records") List<Long> records);

    @Select("SELECT run_id, leg, record, at, who, did, text, corrected FROM reject_history"
            + " WHERE run_id = #{run} AND record = #{record} ORDER BY at")
    List<HistoryRow> history(long run, long record);

    @Update("UPDATE reject SET corrected = #{corrected}, decided_at = #{at}, decided_by = #{who}"
            + " WHERE run_id = #{run} AND leg = #{leg} AND record = #{record} AND state = 'open'")
    int correct(long run, int leg, long record, byte[] corrected, Instant at, String who);

    @Update("UPDATE reject SET state = #{state}, decided_at = #{at}, decided_by = #{who}, reason = #{reason},"
            + " resubmitted_run = #{into} WHERE run_id = #{run} AND leg = #{leg} AND record = #{record}"
            + " AND state = 'open'")
    int decide(long run, int leg, long record, String state, Instant at, String who, String reason, Long into);

    /**
     * Has the last entry of a record tell how an edit went on.
     *
     * @return 0 where the last entry is of another person, of something else, or too old
     */
    @Update(
            "UPDATE reject_history SET at = #{at}, corrected = #{corrected} WHERE run_id = #{run} AND leg = #{leg}"
                    + " AND record = #{record} AND did = #{did} AND who = #{who} AND text IS NULL AND at > #{since}"
                    + " AND at = (SELECT MAX(at) FROM reject_history WHERE run_id = #{run} AND leg = #{leg} AND record = #{record})")
    int goOn(long run, int leg, long record, String did, String who, byte[] corrected, Instant at, Instant since);

    @Insert("INSERT INTO reject_history (run_id, leg, record, at, who, did, text, corrected) VALUES (#{runId}, #{leg},"
            + " #{record}, #{at}, #{who}, #{did}, #{text}, #{corrected})")
    void remember(HistoryRow row);

    @Insert("<script>INSERT INTO resubmitted_record (run_id, record, origin_run, origin_record) VALUES"
            + " <foreach collection='rows' item='o' separator=','>"
            + "(#{o.runId}, #{o.record}, #{o.originRun}, #{o.originRecord})</foreach></script>")
    void originate(@Param("rows") List<OriginRow> rows);
}
