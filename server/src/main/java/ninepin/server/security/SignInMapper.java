package ninepin.server.security;

import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;

/** Sign-ins that failed of late. */
@Mapper
interface SignInMapper {

    /**
     * How often it failed.
     *
     * @param failures in a row, none longer ago than the one before it by {@link SignInGuard#MEMORY_SECONDS}
     * @param secondsAgo how long ago the last one was
     */
    record Failures(int failures, long secondsAgo) {}

    @Select("SELECT failures, TIMESTAMPDIFF(SECOND, last_at, NOW(3)) AS seconds_ago FROM sign_in_failure"
            + " WHERE subject = #{subject} AND last_at > NOW(3) - INTERVAL #{seconds} SECOND")
    Optional<Failures> of(String subject, int seconds);

    @Insert("INSERT INTO sign_in_failure (subject, failures, last_at) VALUES (#{subject}, 1, NOW(3))"
            + " ON DUPLICATE KEY UPDATE failures = IF(last_at > NOW(3) - INTERVAL #{seconds} SECOND, failures + 1, 1),"
            + " last_at = NOW(3)")
    void failed(String subject, int seconds);

    @Delete("DELETE FROM sign_in_failure WHERE subject = #{subject}")
    void forget(String subject);

    @Delete("DELETE FROM sign_in_failure WHERE last_at < NOW(3) - INTERVAL #{seconds} SECOND")
    void forgetOld(int seconds);
}
