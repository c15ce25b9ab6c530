package ninepin.server.jobs;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import ninepin.core.job.Upgrades;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Jobs and their versions. */
@Mapper
public interface JobMapper {

    /** A job as it is kept: the draft that is edited, and which version is live. */
    record JobRow(
            long id,
            String name,
            String draft,
            String draftLayout,
            int revision,
            Integer liveVersion,
            boolean scheduled,
            String sampleName,
            Instant updatedAt,
            String updatedBy) {

        public JobRow {
            draft = Upgrades.job(draft);
        }
    }

    /** A version that was put live. */
    record VersionRow(long jobId, int version, String definition, String layout, Instant liveAt, String liveBy) {

        public VersionRow {
            definition = Upgrades.job(definition);
        }
    }

    String COLUMNS =
            "id, name, draft, draft_layout, revision, live_version, scheduled, sample_name, updated_at, updated_by";

    @Select("SELECT " + COLUMNS + " FROM job ORDER BY name")
    List<JobRow> all();

    @Select("SELECT " + COLUMNS + " FROM job WHERE name = #{name}")
    Optional<JobRow> find(String name);

    @Select("SELECT " + COLUMNS + " FROM job WHERE id = #{id}")
    Optional<JobRow> byId(long id);

    @Insert("INSERT INTO job (name, draft, draft_layout, revision, updated_at, updated_by)"
            + " VALUES (#{name}, #{draft}, #{layout}, 1, #{at}, #{who})")
    void add(String name, String draft, String layout, Instant at, String who);

    @Update("UPDATE job SET draft = #{draft}, draft_layout = #{layout}, revision = revision + 1, updated_at = #{at},"
            + " updated_by = #{who} WHERE id = #{id} AND revision = #{revision}")
    int saveDraft(long id, int revision, String draft, String layout, Instant at, String who);

    @Update("UPDATE job SET sample_name = #{name} WHERE id = #{id}")
    void setSample(long id, String name);

    @Update("UPDATE job SET live_version = #{version} WHERE id = #{id}")
    void setLive(long id, int version);

    @Update("UPDATE job SET scheduled = #{scheduled} WHERE id = #{id}")
    void setScheduled(long id, boolean scheduled);

    @Delete("DELETE FROM job WHERE id = #{id}")
    void delete(long id);

    /** What hangs on a job and goes with it. */
    record Dependents(long versions, long runs, long underWay, long rejects) {}

    @Select("SELECT (SELECT COUNT(*) FROM job_version WHERE job_id = #{id}) AS versions,"
            + " (SELECT COUNT(*) FROM run WHERE job_id = #{id}) AS runs,"
            + " (SELECT COUNT(*) FROM run WHERE job_id = #{id} AND state IN ('WAITING', 'RUNNING', 'PAUSED', 'TAKING_BACK'))"
            + " + (SELECT COUNT(*) FROM claim WHERE job_id = #{id} AND state <> 'LEFT')"
            + " + (SELECT COUNT(*) FROM outbox o JOIN run r ON r.id = o.run_id WHERE r.job_id = #{id}"
            + " AND o.state IN ('WAITING', 'UPLOADED')) AS under_way,"
            + " (SELECT COALESCE(SUM(rejected), 0) FROM run WHERE job_id = #{id}) AS rejects")
    Dependents dependents(long id);

    /** The jobs whose draft or live version needs a connection: for what it asks, looks into, delivers or runs. */
    @Select("SELECT j.name FROM job j LEFT JOIN job_version v ON v.job_id = j.id AND v.version = j.live_version"
            + " WHERE JSON_CONTAINS(JSON_EXTRACT(j.draft, '$.deliveries[*].to.connection',"
            + " '$.documents.lookUps[*].from.connection', '$.statements[*].connection', '$.pickUp.query.connection', '$.pickUp.from.connection'),"
            + " JSON_QUOTE(#{connection}))"
            + " OR JSON_CONTAINS(JSON_EXTRACT(v.definition, '$.deliveries[*].to.connection',"
            + " '$.documents.lookUps[*].from.connection', '$.statements[*].connection', '$.pickUp.query.connection', '$.pickUp.from.connection'),"
            + " JSON_QUOTE(#{connection})) ORDER BY j.name")
    List<String> deliveringThrough(String connection);

    /** The jobs whose draft names a layout. */
    @Select("SELECT " + COLUMNS + " FROM job WHERE JSON_VALUE(draft, '$.layout') = #{layout} ORDER BY name")
    List<JobRow> workingWith(String layout);

    /** The jobs whose draft or live version looks into files of a layout, or writes such. */
    @Select("SELECT j.name FROM job j LEFT JOIN job_version v ON v.job_id = j.id AND v.version = j.live_version"
            + " WHERE JSON_CONTAINS(JSON_EXTRACT(j.draft, '$.documents.lookUps[*].from.layout',"
            + " '$.deliveries[*].to.file.layout.name'), JSON_QUOTE(#{layout}))"
            + " OR JSON_CONTAINS(JSON_EXTRACT(v.definition, '$.documents.lookUps[*].from.layout',"
            + " '$.deliveries[*].to.file.layout.name'), JSON_QUOTE(#{layout})) ORDER BY j.name")
    List<String> lookingInto(String layout);

    @Insert("INSERT INTO job_version (job_id, version, definition, layout, live_at, live_by)"
            + " VALUES (#{jobId}, #{version}, #{definition}, #{layout}, #{liveAt}, #{liveBy})")
    void addVersion(VersionRow row);

    /** Keeps what the targets of a version were like when it went live. */
    @Update("UPDATE job_version SET targets = #{targets} WHERE job_id = #{jobId} AND version = #{version}")
    void keepTargets(long jobId, int version, String targets);

    @Select("SELECT targets FROM job_version WHERE job_id = #{jobId} AND version = #{version} AND targets IS NOT NULL")
    Optional<String> targets(long jobId, int version);

    @Select("SELECT job_id, version, definition, layout, live_at, live_by FROM job_version"
            + " WHERE job_id = #{jobId} AND version = #{version}")
    Optional<VersionRow> version(long jobId, int version);

    @Select("SELECT job_id, version, definition, layout, live_at, live_by FROM job_version"
            + " WHERE job_id = #{jobId} ORDER BY version DESC")
    List<VersionRow> versions(long jobId);
}
