package ninepin.server.codes;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Code lists and their versions. */
@Mapper
public interface CodeListMapper {

    /** A version of a list. */
    record CodeListRow(
            long id, String name, int version, String definition, String note, Instant savedAt, String savedBy) {}

    /** What a run took of a list. */
    record TakenRow(String name, int version, String definition, Instant readAt) {}

    String SELECT = "SELECT l.id, l.name, v.version, v.definition, v.note, v.saved_at, v.saved_by FROM code_list l"
            + " JOIN code_list_version v ON v.code_list_id = l.id ";

    @Select(SELECT + "WHERE v.version = l.version ORDER BY l.name")
    List<CodeListRow> all();

    @Select(SELECT + "WHERE l.name = #{name} AND v.version = l.version")
    Optional<CodeListRow> find(String name);

    @Select(SELECT + "WHERE l.name = #{name} ORDER BY v.version DESC")
    List<CodeListRow> versions(String name);

    @Insert("INSERT INTO code_list (name, version) VALUES (#{name}, 0)")
    void add(String name);

    @Update("UPDATE code_list SET version = version + 1 WHERE name = #{name} AND version = #{basedOn}")
    int next(String name, int basedOn);

    @Insert("INSERT INTO code_list_version (code_list_id, version, definition, note, saved_at, saved_by)"
            + " SELECT id, version, #{definition}, #{note}, #{at}, #{who} FROM code_list WHERE name = #{name}")
    void addVersion(String name, String definition, String note, Instant at, String who);

    @Delete("DELETE FROM code_list WHERE name = #{name}")
    int delete(String name);

    @Select("SELECT name, version, definition, read_at FROM run_code_list WHERE run_id = #{run} ORDER BY name")
    List<TakenRow> taken(long run);

    @Insert("INSERT INTO run_code_list (run_id, name, version, definition, read_at)"
            + " VALUES (#{run}, #{name}, #{version}, #{definition}, #{at})")
    void take(long run, String name, int version, String definition, Instant at);
}
