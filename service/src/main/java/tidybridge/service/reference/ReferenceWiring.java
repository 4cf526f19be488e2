package tidybridge.service.reference;

import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Import;

/** What answers client teams with pages. Named one by one, so that a start looks through no folder; a test holds the list against the classes. */
@Configuration(proxyBeanMethods = false)
@Import({
    AskController.class,
    Directory.class,
    DirectoryController.class,
    DownloadsController.class,
    Guides.class,
    HelpController.class,
    MembersController.class,
    ReferenceController.class,
    References.class,
    Site.class,
    SiteErrors.class,
    TeamController.class
})
public class ReferenceWiring {}
