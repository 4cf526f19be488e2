package tidybridge.service.access;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import tidybridge.core.access.ServicePrivilege;

/** What an operation of the management API asks of its caller. One that says neither this nor {@link DeskOpen} answers nobody. */
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.METHOD)
public @interface DeskNeeds {
    ServicePrivilege value();
}
