package ninepin.core.deliver.database;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ninepin.core.deliver.DatabaseKind;
import ninepin.core.layout.DefinitionException;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Statements as people write them: what is one statement, what only asks, what may run among rows. */
class HostedSqlTest {

    /** A line break is written as ^. */
    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(
            quoteCharacter = '~',
            delimiter = '!',
            value = {
                "MARIADB! SELECT ':a', \":b\", `:c`, :d FROM t! SELECT ':a', \":b\", `:c`, ? FROM t! d",
                "MARIADB! SELECT 'it''s; fine', :a! SELECT 'it''s; fine', ?! a",
                "MARIADB! SELECT 'it\\'s; fine', :a! SELECT 'it\\'s; fine', ?! a",
                "MARIADB! SELECT 1 # :no; comment^, :a! SELECT 1 # :no; comment^, ?! a",
                "MARIADB! SELECT 5--:a! SELECT 5--?! a",
                "MARIADB! SELECT @x := :a! SELECT @x := ?! a",
                "MARIADB! SELECT 1 /* ; /* :no */, :a;! SELECT 1 /* ; /* :no */, ?! a",
                "POSTGRESQL! SELECT 1 /* ; /* ; */ ; */, :a! SELECT 1 /* ; /* ; */ ; */, ?! a",
                "POSTGRESQL! SELECT '\\', :a! SELECT '\\', ?! a",
                "POSTGRESQL! SELECT E'\\';', e'\\\\', :a! SELECT E'\\';', e'\\\\', ?! a",
                "POSTGRESQL! SELECT :a::date, $x$ ; :b $$ $x$! SELECT ?::date, $x$ ; :b $$ $x$! a",
                "POSTGRESQL! SELECT a # b, t$1, :a! SELECT a # b, t$1, ?! a",
            })
    void one_statement_with_its_variables(DatabaseKind kind, String text, String sql, String variable) {
        HostedSql read = HostedSql.parse("query", kind, text.replace('^', '\n'));
        assertThat(read.sql()).isEqualTo(sql.replace('^', '\n'));
        assertThat(read.variables()).containsExactly(variable);
    }

    /** Whatever hides a second statement from a reader of the other kind, or a file of a machine. */
    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(
            quoteCharacter = '~',
            delimiter = '!',
            value = {
                "MARIADB! SELECT 1; DELETE FROM t! is another",
                "MARIADB! SELECT 'a'; DELETE FROM t -- '! is another",
                "MARIADB! SELECT 'a\\\\'; DELETE FROM t -- '! is another",
                "MARIADB! SELECT 5 --; DELETE FROM t! is another",
                "MARIADB! SELECT 1 /* /* */; DELETE FROM t -- */! is another",
                "POSTGRESQL! SELECT E'a\\''; DELETE FROM t; --'! is another",
                "POSTGRESQL! SELECT 'a\\'; DELETE FROM t; --'! is another",
                "POSTGRESQL! SELECT e'a\\\\'; DELETE FROM t! is another",
                "POSTGRESQL! COMMIT; DELETE FROM t! is another",
                "POSTGRESQL! SELECT $a$ $b$; $a$; DELETE FROM t! is another",
                "POSTGRESQL! SELECT x$$; DELETE FROM t; --$$! is another",
                "MARIADB! SELECT 'a! not closed",
                "POSTGRESQL! SELECT 1 /* /* */! not closed",
                "POSTGRESQL! SELECT $a$ $b$! not closed",
                "MARIADB! SELECT 1 WHERE a = ?! question mark",
                "MARIADB! /*x*/ LOAD DATA LOCAL INFILE '/etc/passwd' INTO TABLE t! file of a machine",
                "MARIADB! load/**/data local infile 'x' into table t! file of a machine",
                "MARIADB! SELECT 1 INTO/**/OUTFILE '/tmp/x'! file of a machine",
                "MARIADB! SELECT 1 INTO # x^ DUMPFILE '/tmp/x'! file of a machine",
                "MARIADB! SELECT 1 /*50101 x */ /*~ INTO OUTFILE '/tmp/x' */! would run",
                "MARIADB! SELECT 1 /*M~ INTO OUTFILE '/tmp/x' */! would run",
                "POSTGRESQL! COPY t FROM PROGRAM 'id'! file of a machine",
                "POSTGRESQL! copy (SELECT 1) TO '/tmp/x'! file of a machine",
                "OTHER! ATTACH DATABASE '/home/x' AS y! files of this machine",
                "OTHER! vacuum/**/into '/home/x'! files of this machine",
                "OTHER! SELECT * FROM CSVREAD('/etc/passwd')! files of this machine",
                "OTHER! CREATE ALIAS run AS 'String run() { }'! files of this machine",
                "OTHER! SELECT load_extension('/home/x')! files of this machine",
            })
    void what_is_refused_of_every_statement(DatabaseKind kind, String text, String says) {
        assertThatThrownBy(() -> HostedSql.parse(
                        "query",
                        kind,
                        text.replace('^', '\n').replace("/*~", "/*!").replace("/*M~", "/*M!")))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining(says);
    }

    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(
            quoteCharacter = '~',
            delimiter = '!',
            value = {
                "MARIADB! SELECT * FROM t WHERE word = 'INTO'! ",
                "MARIADB! (SELECT 1) UNION (SELECT 2)! ",
                "POSTGRESQL! WITH a AS (SELECT 1) SELECT * FROM a! ",
                "POSTGRESQL! VALUES (1), (2)! ",
                "POSTGRESQL! TABLE farm! ",
                "MARIADB! DELETE FROM t! is no question",
                "MARIADB! /* SELECT */ CALL p()! is no question",
                "POSTGRESQL! EXPLAIN ANALYZE DELETE FROM t! is no question",
                "POSTGRESQL! SELECT 1 INTO copy_of_t! INTO something",
                "MARIADB! SELECT 1 INTO @x! INTO something",
            })
    void what_only_asks(DatabaseKind kind, String text, String says) {
        HostedSql read = HostedSql.parse("query", kind, text);
        if (says == null) {
            assertThat(read.requireQuestion()).isSameAs(read);
        } else {
            assertThatThrownBy(read::requireQuestion).hasMessageContaining(says);
        }
    }

    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(
            quoteCharacter = '~',
            delimiter = '!',
            value = {
                "MARIADB! UPDATE t SET autocommit_day = 1! true",
                "MARIADB! SET @day = :today! true",
                "MARIADB! SET foreign_key_checks = 0! true",
                "POSTGRESQL! LOCK TABLE farm! true",
                "POSTGRESQL! SET search_path = dairy! true",
                "MARIADB! COMMIT! false",
                "MARIADB! /* x */ rollback! false",
                "MARIADB! START TRANSACTION! false",
                "MARIADB! SET autocommit = 1! false",
                "MARIADB! SET SESSION sql_mode = ''! false",
                "MARIADB! LOCK TABLES farm WRITE! false",
                "MARIADB! EXECUTE IMMEDIATE 'COMMIT'! false",
                "POSTGRESQL! END! false",
                "POSTGRESQL! SET LOCAL standard_conforming_strings = off! false",
            })
    void what_may_run_among_rows(DatabaseKind kind, String text, boolean may) {
        HostedSql read = HostedSql.parse("statement", kind, text);
        if (may) {
            assertThat(read.requirePartOfTransaction()).isSameAs(read);
        } else {
            assertThatThrownBy(read::requirePartOfTransaction).hasMessageContaining("a transaction");
        }
    }
}
