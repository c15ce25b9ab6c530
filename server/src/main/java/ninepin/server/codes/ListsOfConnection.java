package ninepin.server.codes;

import java.util.List;
import ninepin.core.job.Definitions;
import ninepin.server.connections.ConnectionUse;
import org.springframework.stereotype.Component;

/** Tells which code lists are read through a connection. */
@Component
class ListsOfConnection implements ConnectionUse {

    private final CodeListMapper lists;

    ListsOfConnection(CodeListMapper lists) {
        this.lists = lists;
    }

    @Override
    public List<Use> usesOf(String connection) {
        return lists.all().stream()
                .map(row -> Definitions.codeList(row.definition()))
                .filter(list ->
                        list.query() != null && list.query().connection().equals(connection))
                .map(list -> new Use(Kind.CODE_LIST, list.name()))
                .toList();
    }
}
