package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Inputs;

/** A servlet request as raw inputs. */
record CallInputs(HttpServletRequest request, String path, int[] captures) implements Inputs {

    @Override
    public @Nullable String query() {
        return request.getQueryString();
    }

    @Override
    public String path(int index) {
        return path.substring(captures[2 * index], captures[2 * index + 1]);
    }

    @Override
    public @Nullable String header(String name) {
        return request.getHeader(name);
    }
}
