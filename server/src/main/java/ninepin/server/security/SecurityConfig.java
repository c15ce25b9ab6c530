package ninepin.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.function.Supplier;
import ninepin.server.config.NinepinSettings;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.ProviderManager;
import org.springframework.security.authentication.dao.DaoAuthenticationProvider;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfFilter;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.security.web.csrf.CsrfTokenRequestAttributeHandler;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter;
import org.springframework.security.web.savedrequest.NullRequestCache;

/** Sessions for the browser, HTTP Basic for scripts. Changes from a browser need the token of its cookie. */
@Configuration
class SecurityConfig {

    private static final String POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
            + "frame-ancestors 'none'; base-uri 'self'; form-action 'self'";

    @Bean
    SecurityFilterChain chain(
            HttpSecurity http, AuthenticationManager manager, Accounts accounts, Trail trail, NinepinSettings settings)
            throws Exception {
        return http.authorizeHttpRequests(r -> r.requestMatchers("/api/v1/session", "/api/v1/facts")
                        .permitAll()
                        .requestMatchers("/api/**")
                        .authenticated()
                        .requestMatchers(HttpMethod.GET)
                        .permitAll()
                        .requestMatchers(HttpMethod.HEAD)
                        .permitAll()
                        .anyRequest()
                        .authenticated())
                .authenticationManager(manager)
                .httpBasic(b -> b.authenticationEntryPoint(Refusals::unknown))
                .exceptionHandling(e -> e.authenticationEntryPoint(Refusals::unknown))
                .csrf(c -> c.csrfTokenRepository(CookieCsrfTokenRepository.withHttpOnlyFalse())
                        .csrfTokenRequestHandler(new HeaderToken())
                        .ignoringRequestMatchers(r -> r.getHeader("Authorization") != null))
                .headers(h -> h.contentSecurityPolicy(p -> p.policyDirectives(POLICY))
                        .referrerPolicy(p -> p.policy(ReferrerPolicyHeaderWriter.ReferrerPolicy.SAME_ORIGIN))
                        .permissionsPolicyHeader(p -> p.policy("camera=(), geolocation=(), microphone=(), payment=()")))
                .logout(l -> l.disable())
                // Nobody comes back to what was asked before signing in, so that no session is made for it.
                .requestCache(c -> c.requestCache(new NullRequestCache()))
                .addFilterBefore(new TrailFilter(trail), CsrfFilter.class)
                .addFilterAfter(new Sessions(accounts), AnonymousAuthenticationFilter.class)
                .addFilterAfter(new BodyLimits(settings.largestUpload().toBytes()), Sessions.class)
                .build();
    }

    /** The token comes in a header; looked for in the body, the body would be read before it is known who sends it. */
    private static final class HeaderToken extends CsrfTokenRequestAttributeHandler {

        @Override
        public void handle(HttpServletRequest request, HttpServletResponse response, Supplier<CsrfToken> token) {
            super.handle(request, response, token);
            // Has the cookie written.
            token.get();
        }

        @Override
        public String resolveCsrfTokenValue(HttpServletRequest request, CsrfToken token) {
            return request.getHeader(token.getHeaderName());
        }
    }

    /** Refused requests do not keep a thread waiting for the rest of what they send. */
    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> unreadBodies() {
        return factory -> factory.addEngineValves(new UnreadBodies());
    }

    @Bean
    PasswordEncoder passwordEncoder() {
        return new BCryptPasswordEncoder();
    }

    @Bean
    SecurityContextRepository contexts() {
        return new HttpSessionSecurityContextRepository();
    }

    @Bean
    AuthenticationManager authenticationManager(
            UserDetailsService users,
            PasswordEncoder encoder,
            SignInMapper failures,
            RecentSignIns recent,
            Trail trail) {
        DaoAuthenticationProvider passwords = new DaoAuthenticationProvider(users);
        passwords.setPasswordEncoder(encoder);
        return new ProviderManager(new SignInGuard(passwords, failures, recent, trail));
    }

    @Bean
    UserDetailsService users(AccountMapper accounts) {
        return name -> accounts.find(name)
                .map(a -> User.withUsername(a.name())
                        .password(a.passwordHash())
                        .roles("USER")
                        .build())
                .orElseThrow(() -> new UsernameNotFoundException(name));
    }
}
