package ninepin.server.config;

import com.zaxxer.hikari.HikariDataSource;
import ninepin.core.deliver.Tls;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.env.Environment;

/** Keeps the way to the database of Ninepin's own tables from being read; to another machine unless somebody says otherwise. */
@Configuration(proxyBeanMethods = false)
class EncryptedDatabase {

    @Bean
    static BeanPostProcessor encrypts(Environment settings) {
        return new BeanPostProcessor() {
            @Override
            public Object postProcessBeforeInitialization(Object bean, String name) {
                if (bean instanceof HikariDataSource source) {
                    encrypt(source, settings);
                }
                return bean;
            }
        };
    }

    private static void encrypt(HikariDataSource source, Environment settings) {
        String tls = settings.getProperty("ninepin.database.tls", "");
        Tls.Mode mode = tls.isBlank()
                ? Tls.usual(settings.getProperty("ninepin.database.host")).mode()
                : Tls.Mode.named(tls.strip());
        if (mode == Tls.Mode.VERIFIED) {
            source.addDataSourceProperty("sslMode", "verify-full");
            String certificate = settings.getProperty("ninepin.database.certificate", "");
            if (!certificate.isBlank()) {
                source.addDataSourceProperty("serverSslCert", certificate.strip());
            }
        }
    }
}
