package ninepin.server;

import java.nio.file.Path;
import java.util.Arrays;
import ninepin.server.cli.ProveCommand;
import ninepin.server.cli.RunCommand;
import ninepin.server.config.TemporaryFolder;
import org.mybatis.spring.annotation.MapperScan;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.event.ApplicationEnvironmentPreparedEvent;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.context.ApplicationListener;
import org.springframework.scheduling.annotation.EnableScheduling;

/** The entry: {@code run} as first argument runs one job from files, {@code prove} proves one, anything else starts the application. */
@SpringBootApplication
@EnableScheduling
@ConfigurationPropertiesScan
@MapperScan(basePackages = "ninepin.server", annotationClass = org.apache.ibatis.annotations.Mapper.class)
public class Ninepin {

    public static void main(String[] args) {
        if (args.length > 0 && args[0].equals("run")) {
            System.setProperty("logback.configurationFile", "logback-command.xml");
            System.exit(RunCommand.execute(Arrays.copyOfRange(args, 1, args.length), System.out, System.err));
        }
        if (args.length > 0 && args[0].equals("prove")) {
            System.setProperty("logback.configurationFile", "logback-command.xml");
            System.exit(ProveCommand.execute(Arrays.copyOfRange(args, 1, args.length), System.out, System.err));
        }
        SpringApplication application = new SpringApplication(Ninepin.class);
        application.addListeners((ApplicationListener<ApplicationEnvironmentPreparedEvent>) prepared ->
                TemporaryFolder.use(Path.of(prepared.getEnvironment().getProperty("ninepin.data", ".ninepin/data"))
                        .resolve("tmp")));
        application.run(args);
    }
}
