package ninepin.server.connections;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import ninepin.server.security.Seal;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;

@Mapper
interface ConnectionMapper {

    /** A connection as it is kept. */
    record Row(
            String name,
            String title,
            String kind,
            String host,
            int port,
            String databaseName,
            String userName,
            byte[] sealedPassword,
            String base,
            String authentication,
            String descriptionPath,
            String description,
            String tls,
            String certificate,
            Instant updatedAt,
            String updatedBy) {

        /** Whether a secret is kept; one that is empty is sealed as well. */
        boolean hasSecret() {
            return sealedPassword.length > Seal.OVERHEAD;
        }
    }

    String COLUMNS = "name, title, kind, host, port, database_name, user_name, sealed_password, base, authentication,"
            + " description_path, description, tls, certificate, updated_at, updated_by";

    @Select("SELECT " + COLUMNS + " FROM connection ORDER BY name")
    List<Row> all();

    @Select("SELECT " + COLUMNS + " FROM connection WHERE name = #{name}")
    Optional<Row> find(String name);

    @Insert(
            "REPLACE INTO connection (" + COLUMNS
                    + ") VALUES (#{name}, #{title}, #{kind}, #{host}, #{port}, #{databaseName},"
                    + " #{userName}, #{sealedPassword}, #{base}, #{authentication}, #{descriptionPath}, #{description}, #{tls}, #{certificate}, #{updatedAt}, #{updatedBy})")
    void put(Row row);

    @Delete("DELETE FROM connection WHERE name = #{name}")
    int delete(String name);
}
