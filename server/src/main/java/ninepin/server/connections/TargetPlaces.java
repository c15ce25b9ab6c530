package ninepin.server.connections;

import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.Optional;
import java.util.Set;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.server.config.Folders;
import ninepin.server.config.NinepinSettings;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The targets of legs, through the connections and root folders that deliveries name. */
@Configuration(proxyBeanMethods = false)
class TargetPlaces {

    @Bean
    Places places(Connections connections, Folders folders, NinepinSettings settings) {
        return new Places() {
            @Override
            public DatabaseAddress database(String connection) {
                return connections.address(connection);
            }

            @Override
            public ApplicationAddress application(String connection) {
                return connections.application(connection);
            }

            @Override
            public Path folder(String root, String folder) throws TargetException {
                if (folders.isAway(root)) {
                    throw TargetException.rootAway(root);
                }
                return folders.inside(root, folder);
            }

            @Override
            public boolean isRemote(String root) {
                return folders.isRemote(root);
            }

            @Override
            public Optional<TableDescription> table(String connection, String table) throws TargetException {
                return connections.table(connection, table);
            }

            @Override
            public Set<PosixFilePermission> modeOfFiles() {
                return settings.modeOfFiles();
            }

            @Override
            public boolean ownSql() {
                return settings.ownSql();
            }
        };
    }
}
