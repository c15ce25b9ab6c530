package ninepin.server.api;

import java.net.URI;
import java.util.Arrays;
import java.util.List;

/**
 * What a request can fail by: a stable code for programs, and a page that says more of it to people. What a place outside of
 * Ninepin says keeps the code it has there, such as {@code DBS-01}, and has the page of its kind.
 */
public enum ProblemCode {
    API_01(
            "The request cannot be read",
            "Its body, a value in its address or a file that has to be there is not of the form that is "
                    + "expected. What is wrong with it stands in its detail. Sent again as it is, it fails again.",
            400),
    API_02(
            "Nobody is signed in",
            "Sign in, or send name and password with the request (HTTP Basic). A session ends when it has not "
                    + "been used for a while, and when its password is changed.",
            401),
    API_03(
            "The request is refused",
            "A request of a browser that changes something needs the token of its session: the value of "
                    + "the cookie XSRF-TOKEN in the header X-XSRF-TOKEN.",
            403),
    API_04("There is no such thing", "Nothing of that name or number is there, or no longer.", 404),
    API_05(
            "It does not go with what is there",
            "Somebody has changed it meanwhile, something of that name is there already, or its "
                    + "state does not allow it now. Load it again, and decide anew.",
            409),
    API_06(
            "It is too large",
            "The body is larger than Ninepin takes at this address. The largest file is a setting: "
                    + "ninepin.largest-upload.",
            413),
    API_07(
            "It makes no sense yet",
            "It could be read, but something in it cannot be. The part that is concerned is named where there is "
                    + "one; what to change stands in the detail.",
            422),
    API_08(
            "Too often",
            "Wait as many seconds as the header Retry-After says. After several wrong passwords signing in is slowed down.",
            429),
    API_09("Not at this address", "The address is there, but not for this method or media type.", 405, 406, 415),
    OWN_01(
            "Ninepin has failed",
            "That should not be. Tell whoever runs Ninepin the number in the detail: the log says more under it.",
            500),
    OWN_02(
            "Ninepin's own database is away",
            "Ninepin goes on by itself when it is back, and so do its runs. Send the request again then.",
            503),
    DBS(
            "A database has refused, or is away",
            "It is said what the database has answered. The connection is checked under " + "Connections."),
    APP(
            "An application has refused, or is away",
            "It is said what the application has answered. The connection is checked under " + "Connections."),
    FIL(
            "A file cannot be written or read",
            "A folder is missing or full, or what stands there is not what was expected."),
    SQL("A statement of your own has failed", "It is said what the database has answered to it."),
    OUT("A place outside of Ninepin has refused", "What it said stands in the detail.", 502);

    /** The address of the page that has all of them. */
    public static final String PAGE = "/help/problems";

    private final String title;
    private final String help;
    private final List<Integer> statuses;

    ProblemCode(String title, String help, Integer... statuses) {
        this.title = title;
        this.help = help;
        this.statuses = List.of(statuses);
    }

    /** The code of a problem that is told by its status alone. */
    public static ProblemCode of(int status) {
        return Arrays.stream(values())
                .filter(p -> p.statuses.contains(status))
                .findFirst()
                .orElse(status < 500 ? API_01 : OWN_01);
    }

    /** The page for a code, which may be that of a place outside. */
    public static URI type(String code) {
        String anchor = Arrays.stream(values())
                .map(ProblemCode::code)
                .filter(c -> code.equals(c) || code.startsWith(c + "-"))
                .findFirst()
                .orElse(OUT.code());
        return URI.create(PAGE + "#" + anchor);
    }

    /** As it stands in a problem, such as {@code API-04}. */
    public String code() {
        return name().replace('_', '-');
    }

    public String title() {
        return title;
    }

    public String help() {
        return help;
    }
}
