package ninepin.server.runs;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import ninepin.core.run.Fate;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Findings and rejected records of runs. */
@Mapper
interface FindingMapper {

    /** A finding as it is kept. */
    record FindingRow(
            long runId,
            int leg,
            int seq,
            String severity,
            String code,
            String reason,
            long record,
            long line,
            String field,
            int columnFrom,
            int columnTo,
            long byteOffset,
            int byteLength,
            String found,
            String message) {}

    /** A rejected record as it is kept. */
    record RejectRow(
            long runId,
            int leg,
            long record,
            long line,
            long byteOffset,
            long byteLength,
            byte[] raw,
            long document,
            boolean byTarget,
            Fate fate) {}

    /** Findings that have one reason. */
    record ReasonRow(String severity, String code, String reason, long count, long firstLine, String example) {}

    @Insert("<script>INSERT INTO finding (run_id, leg, seq, severity, code, reason, record, line, field, column_from,"
            + " column_to, byte_offset, byte_length, found, message) VALUES <foreach collection='rows' item='f' separator=','>"
            + "(#{f.runId}, #{f.leg}, #{f.seq}, #{f.severity}, #{f.code}, #{f.reason}, #{f.record}, #{f.line}, #{f.field},"
            + " #{f.columnFrom}, #{f.columnTo}, #{f.byteOffset}, #{f.byteLength}, #{f.found}, #{f.message})"
            + "</foreach></script>")
    void addFindings(@Param("rows") List<FindingRow> rows);

    @Insert(
            "<script>INSERT INTO reject (run_id, leg, record, line, byte_offset, byte_length, raw, document, by_target, fate) VALUES"
                    + " <foreach collection='rows' item='r' separator=','>"
                    + "(#{r.runId}, #{r.leg}, #{r.record}, #{r.line}, #{r.byteOffset}, #{r.byteLength}, #{r.raw}, #{r.document}, #{r.byTarget}, #{r.fate})</foreach></script>")
    void addRejects(@Param("rows") List<RejectRow> rows);

    /** How often a reason was found in the runs of a job that began on a day. */
    record DayRow(String job, String title, String severity, String code, String reason, LocalDate day, long count) {}

    @Select("<script>SELECT j.name AS job, COALESCE(NULLIF(JSON_VALUE(j.draft, '$.title'), ''), j.name) AS title,"
            + " f.severity, f.code, f.reason, DATE(r.created_at) AS day, COUNT(*) AS count FROM finding f"
            + " JOIN run r ON r.id = f.run_id JOIN job j ON j.id = r.job_id WHERE r.created_at &gt;= #{since}"
            + " AND f.code &lt;&gt; 'DOC-01' AND r.parent_run IS NULL"
            + "<if test='job != null'> AND j.name = #{job}</if>"
            + " GROUP BY j.id, f.severity, f.code, f.reason, day</script>")
    List<DayRow> byDay(@Param("job") String job, @Param("since") Instant since);

    /** A day on which runs of a job began. */
    record RunDayRow(String job, LocalDate day) {}

    @Select("SELECT DISTINCT j.name AS job, DATE(r.created_at) AS day FROM run r JOIN job j ON j.id = r.job_id"
            + " WHERE r.created_at >= #{since} AND r.parent_run IS NULL")
    List<RunDayRow> runDays(Instant since);

    @Select("SELECT COALESCE(MAX(seq), 0) FROM finding WHERE run_id = #{runId}")
    int lastSeq(long runId);

    @Select(
            "SELECT severity, code, reason, count, line AS first_line, found AS example FROM (SELECT severity, code, reason, line,"
                    + " found, COUNT(*) OVER (PARTITION BY severity, code, reason) AS count, ROW_NUMBER() OVER (PARTITION BY"
                    + " severity, code, reason ORDER BY line, seq) AS nth FROM finding WHERE run_id = #{runId}) of"
                    + " WHERE nth = 1 ORDER BY severity = 'note', code = 'DOC-01', count DESC, line")
    List<ReasonRow> reasons(long runId);

    @Select(
            "<script>SELECT run_id, leg, seq, severity, code, reason, record, line, field, column_from, column_to, byte_offset,"
                    + " byte_length, found, message FROM finding WHERE run_id = #{runId} AND seq > #{after}"
                    + "<if test='code != null'> AND code = #{code}</if><if test='reason != null'> AND reason = #{reason}</if>"
                    + " ORDER BY seq LIMIT #{most}</script>")
    List<FindingRow> findings(
            @Param("runId") long runId,
            @Param("code") String code,
            @Param("reason") String reason,
            @Param("after") int after,
            @Param("most") int most);

    @Select(
            "<script>SELECT run_id, leg, seq, severity, code, reason, record, line, field, column_from, column_to, byte_offset,"
                    + " byte_length, found, message FROM finding WHERE run_id = #{runId} AND record IN"
                    + " <foreach collection='records' item='r' open='(' separator=',' close=')'>#{r}</foreach>"
                    + " ORDER BY seq</script>")
    List<FindingRow> ofRecords(@Param("runId") long runId, @Param("records") List<Long> records);

    @Select(
            "<script>SELECT r.run_id, r.leg, r.record, r.line, r.byte_offset, r.byte_length, r.raw, r.document, r.by_target, r.fate FROM reject r"
                    + " WHERE r.run_id = #{runId} AND (r.record &gt; #{after} OR r.record = #{after} AND r.leg &gt; #{afterPlace})"
                    + "<if test='reason != null'> AND EXISTS (SELECT 1 FROM finding f WHERE f.run_id = r.run_id"
                    + " AND f.record = r.record AND f.reason = #{reason} AND f.code = #{code})</if>"
                    + " ORDER BY r.record, r.leg LIMIT #{most}</script>")
    List<RejectRow> rejects(
            @Param("runId") long runId,
            @Param("code") String code,
            @Param("reason") String reason,
            @Param("after") long after,
            @Param("afterPlace") int afterPlace,
            @Param("most") int most);

    @Delete("DELETE FROM finding WHERE run_id = #{runId} AND leg = #{leg}")
    void removeFindings(long runId, int leg);

    @Delete("DELETE FROM reject WHERE run_id = #{runId} AND leg = #{leg}")
    void removeRejects(long runId, int leg);
}
