package ninepin.server.cli;

import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import ninepin.core.run.RunPlan;

/**
 * The arguments of {@code ninepin run}.
 *
 * @param job the job's JSON file
 * @param layout the layout's JSON file; null for the one beside the job
 * @param codes the folder of code lists; null for the one of the job
 * @param input the file to run it on; null where the job asks a database
 * @param set values asked at start
 * @param settings the properties file with the connections; null for {@code ninepin.properties}
 * @param state where journals are kept between restarts
 * @param rehearse whether nothing is to be delivered
 * @param again whether a file that was delivered before is delivered again
 * @param commitRows the most records that are committed together
 */
record Arguments(
        Path job,
        Path layout,
        Path codes,
        Path input,
        Map<String, String> set,
        Path settings,
        Path state,
        boolean rehearse,
        boolean again,
        int commitRows) {

    static final String USE =
            """
            use: ninepin run --job FILE.json [--input FILE] [--layout FILE.json] [--set name=value]... [--rehearse]
                             [--codes FOLDER] [--settings FILE] [--state FOLDER] [--again] [--commit-rows N]
              Without --input the job asks the database that its pick-up names.
              The layout is looked for beside the job, as NAME.layout.json, code lists beside it or in
              the folder of --codes, as NAME.codes.json. Connections are named in the settings:
              ninepin.connections.NAME.kind (mariadb or postgresql), .host, .port, .database, .user, .password (or in the environment as
              NINEPIN_CONNECTIONS_NAME_PASSWORD and so on), root folders of look-ups and files as ninepin.roots.NAME.
              Exit: 0 all delivered, 1 finished with rejects, 2 halted, stopped or failed, 64 wrong use.""";

    /** Reads arguments; throws {@link IllegalArgumentException} with what is wrong. */
    static Arguments parse(String[] args) {
        Map<String, String> values = new TreeMap<>();
        Map<String, String> set = new TreeMap<>();
        for (int i = 0; i < args.length; i++) {
            String arg = args[i];
            switch (arg) {
                case "--rehearse", "--again" -> values.put(arg, "");
                case "--job", "--layout", "--codes", "--input", "--settings", "--state", "--commit-rows", "--set" -> {
                    if (++i == args.length) {
                        throw new IllegalArgumentException(arg + " needs a value");
                    }
                    if (arg.equals("--set")) {
                        int equals = args[i].indexOf('=');
                        if (equals < 1) {
                            throw new IllegalArgumentException("--set needs name=value");
                        }
                        set.put(args[i].substring(0, equals), args[i].substring(equals + 1));
                    } else {
                        values.put(arg, args[i]);
                    }
                }
                default -> throw new IllegalArgumentException("unknown argument " + arg);
            }
        }
        if (!values.containsKey("--job")) {
            throw new IllegalArgumentException("--job is needed");
        }
        return new Arguments(
                path(values, "--job"),
                path(values, "--layout"),
                path(values, "--codes"),
                path(values, "--input"),
                set,
                path(values, "--settings"),
                Path.of(values.getOrDefault("--state", ".ninepin/runs")),
                values.containsKey("--rehearse"),
                values.containsKey("--again"),
                commitRows(values.get("--commit-rows")));
    }

    Arguments withInput(Path other) {
        return new Arguments(job, layout, codes, other, set, settings, state, rehearse, again, commitRows);
    }

    private static int commitRows(String text) {
        if (text == null) {
            return RunPlan.CHUNK_ROWS;
        }
        if (!text.matches("[1-9]\\d{0,5}")) {
            throw new IllegalArgumentException("--commit-rows needs a number from 1 to 999999");
        }
        return Integer.parseInt(text);
    }

    private static Path path(Map<String, String> values, String name) {
        return values.containsKey(name) ? Path.of(values.get(name)) : null;
    }
}
