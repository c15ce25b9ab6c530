package ninepin.core.deliver.database;

/** A table's name with or without its schema. */
public record TableName(String schema, String table) {

    public static TableName parse(String name) {
        int dot = name.indexOf('.');
        return dot < 0 ? new TableName(null, name) : new TableName(name.substring(0, dot), name.substring(dot + 1));
    }

    /** The name as it stands in a statement. */
    public String sql(Dialect dialect) {
        return schema == null ? dialect.quoted(table) : dialect.quoted(schema) + "." + dialect.quoted(table);
    }
}
