package tidybridge.service;

import java.io.IOException;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import org.apache.coyote.ErrorState;
import org.apache.coyote.Processor;
import org.apache.coyote.http11.Http11NioProtocol;
import org.apache.coyote.http11.Http11Processor;
import org.apache.tomcat.util.net.AbstractEndpoint.Handler.SocketState;
import org.apache.tomcat.util.net.SocketWrapperBase;

/**
 * HTTP/1.1 and 1.0 as the server speaks it, without HTTP/0.9, which it would answer too: such a request has no header fields, so nothing
 * about it can be decided, and the server would remember for the next connection that answers have no status line.
 */
public final class HttpProtocol extends Http11NioProtocol {

    private static final int VERSION_NOT_SUPPORTED = 505;

    @Override
    protected Processor createProcessor() {
        return new StatedProcessor(this);
    }

    /** Knows requests that name their version only. */
    private static final class StatedProcessor extends Http11Processor {

        /** The server resets it with the next request line that can be read, which is too late for one that cannot. */
        private static final VarHandle IS_09 = isHttp09();

        StatedProcessor(HttpProtocol protocol) {
            super(protocol, protocol.getAdapter());
        }

        private static VarHandle isHttp09() {
            try {
                return MethodHandles.privateLookupIn(Http11Processor.class, MethodHandles.lookup())
                        .findVarHandle(Http11Processor.class, "http09", boolean.class);
            } catch (ReflectiveOperationException e) {
                throw new IllegalStateException("this version of the HTTP server is not known here", e);
            }
        }

        @Override
        public SocketState service(SocketWrapperBase<?> socket) throws IOException {
            IS_09.set(this, false);
            return super.service(socket);
        }

        /** Called once the request line is read and there is no Host field that could say a port. */
        @Override
        protected void populatePort() {
            super.populatePort();
            if ((boolean) IS_09.get(this)) {
                IS_09.set(this, false);
                response.setStatus(VERSION_NOT_SUPPORTED);
                setErrorState(ErrorState.CLOSE_CLEAN, null);
            }
        }
    }
}
