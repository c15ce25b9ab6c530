package ninepin.server.security;

import java.time.Instant;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The accounts of people. */
@Mapper
interface AccountMapper {

    /** An account. */
    record Account(String name, String fullName, String passwordHash, Instant passwordAt) {}

    @Select("SELECT name, full_name, password_hash, password_at FROM account WHERE name = #{name}")
    Optional<Account> find(String name);

    @Update("UPDATE account SET password_hash = #{hash}, password_at = #{at} WHERE name = #{name}")
    void changePassword(String name, String hash, Instant at);

    @Select("SELECT COUNT(*) FROM account")
    int count();

    @Insert("INSERT INTO account (name, full_name, password_hash, created_at)"
            + " VALUES (#{name}, #{fullName}, #{hash}, #{at})")
    void add(String name, String fullName, String hash, Instant at);
}
