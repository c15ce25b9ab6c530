package ninepin.server.proofs;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The proofs of jobs. */
@Mapper
interface ProofMapper {

    /** A proof; its definition as the command line reads it too. */
    record ProofRow(long id, long jobId, String name, String definition, Instant madeAt, String madeBy) {}

    String COLUMNS = "id, job_id, name, definition, made_at, made_by";

    @Select("SELECT " + COLUMNS + " FROM proof WHERE job_id = #{job} ORDER BY name")
    List<ProofRow> of(long job);

    @Select("SELECT " + COLUMNS + " FROM proof WHERE job_id = #{job} AND name = #{name}")
    Optional<ProofRow> find(long job, String name);

    @Insert("INSERT INTO proof (job_id, name, definition, made_at, made_by)"
            + " VALUES (#{job}, #{name}, #{definition}, #{at}, #{who})")
    void add(long job, String name, String definition, Instant at, String who);

    @Update("UPDATE proof SET definition = #{definition}, made_at = #{at}, made_by = #{who}"
            + " WHERE job_id = #{job} AND name = #{name}")
    void change(long job, String name, String definition, Instant at, String who);

    @Delete("DELETE FROM proof WHERE job_id = #{job} AND name = #{name}")
    int delete(long job, String name);
}
