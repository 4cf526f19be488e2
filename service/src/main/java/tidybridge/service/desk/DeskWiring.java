package tidybridge.service.desk;

import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Import;

/** What answers the management API. Named one by one, so that a start looks through no folder; a test holds the list against the classes. */
@Configuration(proxyBeanMethods = false)
@Import({
    AccessController.class,
    AccountController.class,
    AnnouncementsController.class,
    ArchiveController.class,
    AuditController.class,
    ComparisonsController.class,
    DeskErrors.class,
    DraftsController.class,
    DriftController.class,
    ExplainController.class,
    FirstTextsController.class,
    LiveReleasesController.class,
    MetricsController.class,
    ModuleTexts.class,
    ModulesController.class,
    NodesController.class,
    NoticesController.class,
    PagesController.class,
    ProviderController.class,
    RehearsedResults.class,
    ReleasesController.class,
    RequestsController.class,
    ReviewsController.class,
    SessionsController.class,
    SheetsController.class,
    SourcesController.class,
    TeamsController.class,
    TrialsController.class
})
public class DeskWiring {}
