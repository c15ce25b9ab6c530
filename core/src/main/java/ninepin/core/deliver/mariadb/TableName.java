package ninepin.core.deliver.mariadb;

/** A table's name with or without its schema. */
record TableName(String schema, String table) {

    static TableName parse(String name) {
        int dot = name.indexOf('.');
        return dot < 0 ? new TableName(null, name) : new TableName(name.substring(0, dot), name.substring(dot + 1));
    }

    /** The name as it stands in a statement. */
    String sql() {
        return schema == null ? MariaDb.quoted(table) : MariaDb.quoted(schema) + "." + MariaDb.quoted(table);
    }
}
