package ninepin.server.pickup;

import java.time.Instant;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;

/** How far the queries of jobs have been taken. */
@Mapper
interface QueryMapper {

    @Select("SELECT last_key FROM query_mark WHERE job_id = #{job}")
    Optional<String> lastKey(long job);

    @Insert("INSERT INTO query_mark (job_id, last_key, run_id, taken_at) VALUES (#{job}, #{key}, #{run}, #{at})"
            + " ON DUPLICATE KEY UPDATE last_key = #{key}, run_id = #{run}, taken_at = #{at}")
    void taken(long job, String key, long run, Instant at);
}
