package tidybridge.core.answer;

import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import tools.jackson.core.JsonGenerator;

/**
 * Writes a geometry as GeoJSON (RFC 7946). Coordinates are written as they are stored: x first, then y, which is longitude and
 * latitude for data in WGS 84 as the standard asks for.
 */
final class GeoJson {

    /** Ahead of the geometry itself the server puts the number of its coordinate system. */
    private static final int SYSTEM_BYTES = 4;

    private static final int COLLECTION = 7;
    private static final int DEEPEST = 32;
    private static final String[] NAMES = {
        "", "Point", "LineString", "Polygon", "MultiPoint", "MultiLineString", "MultiPolygon", "GeometryCollection"
    };

    private final ByteBuffer in;
    private final JsonGenerator json;

    private GeoJson(byte[] value, JsonGenerator json) {
        this.in = ByteBuffer.wrap(value);
        this.json = json;
    }

    /** Writes the value, or null when it is no geometry that the standard knows. */
    static void write(byte[] value, JsonGenerator json) {
        if (!new Measure(value).fits()) {
            json.writeNull();
            return;
        }
        GeoJson writer = new GeoJson(value, json);
        writer.in.position(SYSTEM_BYTES);
        writer.geometry();
    }

    private void geometry() {
        int type = header(in);
        json.writeStartObject();
        json.writeName("type");
        json.writeString(NAMES[type]);
        json.writeName(type == COLLECTION ? "geometries" : "coordinates");
        switch (type) {
            case 1 -> position();
            case 2 -> positions();
            case 3 -> rings();
            default -> parts(type);
        }
        json.writeEndObject();
    }

    /** The parts of a multiple geometry each have a header of their own, which GeoJSON does not repeat. */
    private void parts(int type) {
        int count = in.getInt();
        json.writeStartArray();
        for (int i = 0; i < count; i++) {
            if (type == COLLECTION) {
                geometry();
                continue;
            }
            header(in);
            switch (type) {
                case 4 -> position();
                case 5 -> positions();
                default -> rings();
            }
        }
        json.writeEndArray();
    }

    private void rings() {
        int count = in.getInt();
        json.writeStartArray();
        for (int i = 0; i < count; i++) {
            positions();
        }
        json.writeEndArray();
    }

    private void positions() {
        int count = in.getInt();
        json.writeStartArray();
        for (int i = 0; i < count; i++) {
            position();
        }
        json.writeEndArray();
    }

    private void position() {
        json.writeStartArray();
        number(in.getDouble());
        number(in.getDouble());
        json.writeEndArray();
    }

    /** A whole number needs no point. */
    private void number(double value) {
        if (value == Math.rint(value) && Math.abs(value) < 1e15) {
            json.writeNumber((long) value);
        } else {
            json.writeNumber(value);
        }
    }

    /** Reads byte order and type of a geometry in well-known binary (ISO 19125). */
    private static int header(ByteBuffer in) {
        in.order(in.get() == 1 ? ByteOrder.LITTLE_ENDIAN : ByteOrder.BIG_ENDIAN);
        return in.getInt();
    }

    /** Walks over a value before anything of it is written, so that a broken one leaves no half of itself behind. */
    private static final class Measure {
        private final ByteBuffer in;

        Measure(byte[] value) {
            this.in = ByteBuffer.wrap(value);
        }

        boolean fits() {
            try {
                in.position(Math.min(SYSTEM_BYTES, in.limit()));
                return geometry(0, DEEPEST) && !in.hasRemaining();
            } catch (BufferUnderflowException e) {
                return false;
            }
        }

        /** One geometry; {@code expected} is 0 where any type may stand. */
        private boolean geometry(int expected, int depth) {
            int type = header(in);
            if (type < 1 || type > COLLECTION || expected != 0 && type != expected || depth == 0) {
                return false;
            }
            return switch (type) {
                case 1 -> skip(1);
                case 2 -> skip(in.getInt());
                case 3 -> lines(in.getInt());
                default -> parts(type, in.getInt(), depth);
            };
        }

        private boolean parts(int type, int count, int depth) {
            for (int i = 0; i < count; i++) {
                if (!geometry(type == COLLECTION ? 0 : type - 3, depth - 1)) {
                    return false;
                }
            }
            return count >= 0;
        }

        private boolean lines(int count) {
            for (int i = 0; i < count; i++) {
                if (!skip(in.getInt())) {
                    return false;
                }
            }
            return count >= 0;
        }

        private boolean skip(int positions) {
            long bytes = 16L * positions;
            if (positions < 0 || bytes > in.remaining()) {
                return false;
            }
            in.position(in.position() + (int) bytes);
            return true;
        }
    }
}
