package ninepin.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import ninepin.server.api.OwnDatabase;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.config.Customizer;
import org.springframework.security.config.annotation.authentication.configuration.AuthenticationConfiguration;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;

/** Sessions for the browser, HTTP Basic for scripts. Changes from a browser need the token of its cookie. */
@Configuration
class SecurityConfig {

    private static final String POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
            + "frame-ancestors 'none'; base-uri 'self'; form-action 'self'";

    @Bean
    SecurityFilterChain chain(HttpSecurity http) throws Exception {
        return http.authorizeHttpRequests(r -> r.requestMatchers("/api/session", "/api/facts")
                        .permitAll()
                        .requestMatchers("/api/**")
                        .authenticated()
                        .anyRequest()
                        .permitAll())
                .httpBasic(b -> b.authenticationEntryPoint(SecurityConfig::refuse))
                .exceptionHandling(e -> e.authenticationEntryPoint(SecurityConfig::refuse))
                .csrf(c -> c.spa().ignoringRequestMatchers(r -> r.getHeader("Authorization") != null))
                .headers(h -> h.contentSecurityPolicy(p -> p.policyDirectives(POLICY)))
                .logout(l -> l.disable())
                .requestCache(Customizer.withDefaults())
                .build();
    }

    /** Who cannot be looked up because the database is away is not told that the password is wrong. */
    private static void refuse(HttpServletRequest request, HttpServletResponse response, AuthenticationException e)
            throws IOException {
        boolean away = OwnDatabase.isAway(e);
        response.setStatus((away ? HttpStatus.SERVICE_UNAVAILABLE : HttpStatus.UNAUTHORIZED).value());
        if (away) {
            response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
            response.getWriter().write("{\"status\":503,\"detail\":\"" + OwnDatabase.AWAY + "\"}");
        }
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
    AuthenticationManager authenticationManager(AuthenticationConfiguration configuration) throws Exception {
        return configuration.getAuthenticationManager();
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
