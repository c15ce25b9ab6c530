package ninepin.server.security;

import java.time.Instant;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;

@Mapper
interface AccountMapper {

    /** An account. */
    record Account(String name, String fullName, String passwordHash) {}

    @Select("SELECT name, full_name, password_hash FROM account WHERE name = #{name}")
    Optional<Account> find(String name);

    @Select("SELECT COUNT(*) FROM account")
    int count();

    @Insert("INSERT INTO account (name, full_name, password_hash, created_at)"
            + " VALUES (#{name}, #{fullName}, #{hash}, #{at})")
    void add(String name, String fullName, String hash, Instant at);
}
