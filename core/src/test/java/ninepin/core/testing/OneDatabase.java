package ninepin.core.testing;

import java.nio.file.Path;
import java.util.Optional;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;

/** Places of which there is one database, whatever the connection is called; nothing of it is described. */
public record OneDatabase(DatabaseAddress database, boolean ownSql) implements Places {

    @Override
    public DatabaseAddress database(String connection) {
        return database;
    }

    @Override
    public ApplicationAddress application(String connection) {
        throw new UnsupportedOperationException();
    }

    @Override
    public Path folder(String root, String below) {
        throw new UnsupportedOperationException();
    }

    @Override
    public Optional<TableDescription> table(String connection, String table) {
        return Optional.empty();
    }
}
