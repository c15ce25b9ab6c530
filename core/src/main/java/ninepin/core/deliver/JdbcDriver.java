package ninepin.core.deliver;

import java.sql.Driver;
import java.util.Map;
import java.util.Set;
import ninepin.core.layout.DefinitionException;

/**
 * A driver that the operator has put into the folder of drivers, and what its database does otherwise than most.
 *
 * @param name what connections know it by
 * @param title what people call the database
 * @param driver the driver
 * @param address the address that it is given, with {@code {host}}, {@code {port}} and {@code {database}} in it
 * @param port the port that its servers usually listen on; 0 where there is none
 * @param quote what stands around an identifier
 * @param types the types of columns in which it differs: {@code text}, {@code whole}, {@code truth}, {@code timestamp}
 * @param refusals the vendor's codes of errors that are about what stands in a row
 * @param busy the vendor's codes of errors that are about others who hold the rows
 */
public record JdbcDriver(
        String name,
        String title,
        Driver driver,
        String address,
        int port,
        String quote,
        Map<String, String> types,
        Set<Integer> refusals,
        Set<Integer> busy) {

    public JdbcDriver {
        if (!name.matches("[a-z][a-z0-9-]{0,30}")) {
            throw new DefinitionException(
                    "driver", "\"" + name + "\" is no name of a driver: small letters and digits");
        }
        if (!address.startsWith("jdbc:")) {
            throw new DefinitionException("address", "\"" + address + "\" does not begin with jdbc:");
        }
        if (quote.length() != 1) {
            throw new DefinitionException("quote", "is one character");
        }
        types = Map.copyOf(types);
        refusals = Set.copyOf(refusals);
        busy = Set.copyOf(busy);
    }

    /** Where a database is, as the driver wants it. What is put in is checked by {@link DatabaseAddress}. */
    public String addressOf(String host, int port, String database) {
        return address.replace("{host}", host)
                .replace("{port}", String.valueOf(port))
                .replace("{database}", database);
    }

    /** The type of a column. */
    public String type(String of, String usual) {
        return types.getOrDefault(of, usual);
    }
}
