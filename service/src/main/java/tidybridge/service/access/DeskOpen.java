package tidybridge.service.access;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/** Marks what asks for no privilege. */
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.METHOD)
public @interface DeskOpen {

    /** Who may call it. */
    To value();

    /** Whom something is open to. */
    enum To {
        EVERYBODY,
        SIGNED_IN
    }
}
