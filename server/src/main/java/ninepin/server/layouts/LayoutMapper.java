package ninepin.server.layouts;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Layouts of the library and their versions. */
@Mapper
public interface LayoutMapper {

    /** A layout as it is kept: its draft, the sample beside it, and the last sample that it fitted. */
    record LayoutRow(
            long id,
            String name,
            String draft,
            int revision,
            String sampleName,
            String fittedName,
            Instant fittedAt,
            Instant updatedAt,
            String updatedBy) {}

    /** A saved version. */
    record LayoutVersionRow(
            long layoutId, int version, String definition, String note, Instant savedAt, String savedBy) {}

    /** A file that a layout read without refusing a record of it. */
    record Fitted(String name, Instant at) {}

    String COLUMNS = "id, name, draft, revision, sample_name, fitted_name, fitted_at, updated_at, updated_by";

    @Select("SELECT " + COLUMNS + " FROM layout ORDER BY name")
    List<LayoutRow> all();

    @Select("SELECT " + COLUMNS + " FROM layout WHERE name = #{name}")
    Optional<LayoutRow> find(String name);

    @Insert("INSERT INTO layout (name, draft, revision, updated_at, updated_by)"
            + " VALUES (#{name}, #{draft}, 1, #{at}, #{who})")
    void add(String name, String draft, Instant at, String who);

    @Update("UPDATE layout SET draft = #{draft}, revision = revision + 1, updated_at = #{at}, updated_by = #{who}"
            + " WHERE id = #{id} AND revision = #{revision}")
    int saveDraft(long id, int revision, String draft, Instant at, String who);

    @Update("UPDATE layout SET sample_name = #{name} WHERE id = #{id}")
    void setSample(long id, String name);

    @Update("UPDATE layout SET fitted_name = #{name}, fitted_at = #{at} WHERE id = #{id}")
    void setFitted(long id, String name, Instant at);

    /** The last file that a job working with a layout has run without a reject. */
    @Select("SELECT r.file_name AS name, r.ended_at AS at FROM run r JOIN job j ON j.id = r.job_id"
            + " WHERE JSON_VALUE(j.draft, '$.layout') = #{layout} AND r.state = 'FINISHED' AND r.rejected = 0"
            + " ORDER BY r.id DESC LIMIT 1")
    Optional<Fitted> lastRun(String layout);

    @Delete("DELETE FROM layout WHERE id = #{id}")
    void delete(long id);

    @Insert("INSERT INTO layout_version (layout_id, version, definition, note, saved_at, saved_by)"
            + " VALUES (#{layoutId}, #{version}, #{definition}, #{note}, #{savedAt}, #{savedBy})")
    void addVersion(LayoutVersionRow row);

    @Select("SELECT layout_id, version, definition, note, saved_at, saved_by FROM layout_version"
            + " WHERE layout_id = #{layoutId} ORDER BY version DESC")
    List<LayoutVersionRow> versions(long layoutId);
}
