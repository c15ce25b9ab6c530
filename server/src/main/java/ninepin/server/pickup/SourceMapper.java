package ninepin.server.pickup;

import java.time.Instant;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;

/** How far the sources of jobs have been taken, and what is the matter with them. */
@Mapper
public interface SourceMapper {

    @Select("SELECT last_key FROM query_mark WHERE job_id = #{job}")
    Optional<String> lastKey(long job);

    /** A key that a query was seen to reach. */
    record Seen(String seenKey, Instant seenAt) {}

    @Select("SELECT seen_key, seen_at FROM query_seen WHERE job_id = #{job}")
    Optional<Seen> seen(long job);

    @Insert("INSERT INTO query_seen (job_id, seen_key, seen_at) VALUES (#{job}, #{key}, #{at})"
            + " ON DUPLICATE KEY UPDATE seen_key = #{key}, seen_at = #{at}")
    void saw(long job, String key, Instant at);

    @Delete("DELETE FROM query_seen WHERE job_id = #{job}")
    void unsee(long job);

    /** Why a source gave no file. */
    record Trouble(String message, Instant happenedAt) {}

    @Select("SELECT message, happened_at FROM source_trouble WHERE job_id = #{job}")
    Optional<Trouble> trouble(long job);

    @Insert("INSERT INTO source_trouble (job_id, message, happened_at) VALUES (#{job}, #{message}, #{at})"
            + " ON DUPLICATE KEY UPDATE message = #{message}, happened_at = #{at}")
    void troubled(long job, String message, Instant at);

    @Delete("DELETE FROM source_trouble WHERE job_id = #{job}")
    void untroubled(long job);

    @Insert("INSERT INTO query_mark (job_id, last_key, run_id, taken_at) VALUES (#{job}, #{key}, #{run}, #{at})"
            + " ON DUPLICATE KEY UPDATE last_key = #{key}, run_id = #{run}, taken_at = #{at}")
    void taken(long job, String key, long run, Instant at);
}
