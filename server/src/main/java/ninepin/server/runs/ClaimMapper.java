package ninepin.server.runs;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.job.Definitions;
import ninepin.core.pickup.From;
import ninepin.core.pickup.Settlement;
import ninepin.doors.source.Item;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The table {@code claim}. */
@Mapper
public interface ClaimMapper {

    /** How far a claim has come. */
    enum State {
        /** Being fetched, or to be fetched. */
        CLAIMED,
        /** Its run is made; something is left to do at the source. */
        FETCHED,
        /** It is only remembered that it was taken. */
        LEFT
    }

    /** A claim to be. */
    class NewClaim {
        public long id;
        public long jobId;
        public int version;
        public String takenFrom;
        public String item;
        public String itemVersion;
        public String held;
        public String runKey;
        public String fileName;
        public String filePath;
        public String fileHome;
        public String startedBy;
        public String asked;
        public Settlement settlement;
        public String owner;
        public Instant claimedAt;
    }

    /**
     * A claim.
     *
     * @param version the version of the job that takes
     * @param takenFrom where from, as JSON
     * @param filePath the file that is made of the item
     */
    record ClaimRow(
            long id,
            long jobId,
            int version,
            String takenFrom,
            String item,
            String itemVersion,
            String runKey,
            String fileName,
            String filePath,
            String fileHome,
            String startedBy,
            String asked,
            Settlement settlement,
            State state,
            String owner,
            Instant claimedAt) {

        /** Where it was found. */
        public From from() {
            return Definitions.read(takenFrom, From.class);
        }

        /** What was found. */
        public Item found() {
            return new Item(item, fileName, -1, null, itemVersion);
        }

        /** The values given at start. */
        public Map<String, String> given() {
            return AskedValues.read(asked);
        }

        Path file() {
            return Path.of(filePath);
        }
    }

    @Insert("INSERT INTO claim (job_id, version, taken_from, item, item_version, held, run_key, file_name, file_path,"
            + " file_home, started_by, asked, settlement, state, owner, claimed_at) VALUES (#{jobId}, #{version}, #{takenFrom},"
            + " #{item}, #{itemVersion}, #{held}, #{runKey}, #{fileName}, #{filePath}, #{fileHome}, #{startedBy},"
            + " #{asked}, #{settlement}, 'CLAIMED', #{owner}, #{claimedAt})")
    @Options(useGeneratedKeys = true, keyProperty = "id")
    void add(NewClaim claim);

    String SELECT =
            "SELECT id, job_id, version, taken_from, item, item_version, run_key, file_name, file_path, file_home,"
                    + " started_by, asked, settlement, state, owner, claimed_at FROM claim ";

    @Select(SELECT + "WHERE id = #{id}")
    Optional<ClaimRow> find(long id);

    /** Claims that are not through, the oldest first. */
    @Select(SELECT + "WHERE state IN ('CLAIMED', 'FETCHED') ORDER BY id")
    List<ClaimRow> open();

    @Select(SELECT + "WHERE state IN ('CLAIMED', 'FETCHED') AND job_id = #{job} ORDER BY id")
    List<ClaimRow> openOf(long job);

    /** Which of some items were claimed before. */
    @Select("<script>SELECT held FROM claim WHERE held IN"
            + " <foreach collection='held' item='h' open='(' separator=',' close=')'>#{h}</foreach></script>")
    List<String> heldAmong(@Param("held") List<String> held);

    /** A claim gets on; 0 where another process was quicker. */
    @Update("UPDATE claim SET state = #{state} WHERE id = #{id} AND state = 'CLAIMED'")
    int become(long id, State state);

    /** A claim is over; 0 where another process was quicker. */
    @Delete("DELETE FROM claim WHERE id = #{id}")
    int drop(long id);
}
