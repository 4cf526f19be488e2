package tidybridge.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.lang.classfile.ClassFile;
import java.lang.classfile.ClassFile.ClassHierarchyResolverOption;
import java.lang.classfile.ClassFile.ConstantPoolSharingOption;
import java.lang.classfile.ClassFile.StackMapsOption;
import java.lang.classfile.ClassFileVersion;
import java.lang.classfile.ClassHierarchyResolver;
import java.lang.classfile.ClassModel;
import java.lang.classfile.MethodModel;
import java.lang.classfile.MethodTransform;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;

/**
 * Writes the classes of a library in a newer form of class file. The virtual machine keeps no classes of the oldest forms in its cache of
 * prepared classes, and reads and verifies them anew at every start. Nothing else of the library changes.
 */
public final class ClassUpgrade {

    private static final int NEWEST_NOT_KEPT = ClassFile.JAVA_5_VERSION;

    private ClassUpgrade() {}

    /** Takes the library and where its newer form is to be written. */
    public static void main(String[] args) throws IOException {
        Path library = Path.of(args[0]);
        try (URLClassLoader itself =
                        new URLClassLoader(new URL[] {library.toUri().toURL()});
                ZipInputStream in = new ZipInputStream(Files.newInputStream(library));
                OutputStream file = Files.newOutputStream(Path.of(args[1]));
                ZipOutputStream out = new ZipOutputStream(file)) {
            ClassFile files = ClassFile.of(
                    StackMapsOption.GENERATE_STACK_MAPS,
                    ConstantPoolSharingOption.NEW_POOL,
                    ClassHierarchyResolverOption.of(ClassHierarchyResolver.defaultResolver()
                            .orElse(ClassHierarchyResolver.ofResourceParsing(itself))));
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                byte[] bytes = in.readAllBytes();
                out.putNextEntry(new ZipEntry(entry.getName()));
                out.write(entry.getName().endsWith(".class") ? upgraded(bytes, files) : bytes);
                out.closeEntry();
            }
        }
    }

    /** The same class; code is written anew with the stack maps that newer forms need. */
    private static byte[] upgraded(byte[] bytes, ClassFile files) {
        ClassModel model = files.parse(bytes);
        if (model.majorVersion() > NEWEST_NOT_KEPT) {
            return bytes;
        }
        return files.transformClass(model, (builder, element) -> {
            switch (element) {
                case ClassFileVersion version -> builder.withVersion(ClassFile.JAVA_11_VERSION, 0);
                case MethodModel method ->
                    builder.transformMethod(
                            method, MethodTransform.transformingCode((code, instruction) -> code.with(instruction)));
                default -> builder.with(element);
            }
        });
    }
}
