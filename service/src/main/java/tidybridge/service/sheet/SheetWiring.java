package tidybridge.service.sheet;

import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Import;

/** What takes the sheets that people send. Named one by one, so that a start looks through no folder; a test holds the list against the classes. */
@Configuration(proxyBeanMethods = false)
@Import({SheetLoad.class})
public class SheetWiring {}
