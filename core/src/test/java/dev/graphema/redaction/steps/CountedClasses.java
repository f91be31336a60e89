package dev.graphema.redaction.steps;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.lang.reflect.Method;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Label;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;

/**
 * Loads the classes of one package once more, so that they count their {@link Steps}: at each jump back, and at each call of a
 * method of {@link String}, by the number of characters that it reads.
 */
final class CountedClasses extends ClassLoader {
    private static final String STEPS = Type.getInternalName(Steps.class);
    private static final String STRING = Type.getInternalName(String.class);

    /** Methods that read one character at most, independent of the text. */
    private static final List<String> FREE = List.of("length", "isEmpty", "hashCode");

    private static final Set<String> COUNTED = new HashSet<>();

    static {
        for (Method method : Steps.class.getMethods()) {
            COUNTED.add(method.getName() + Type.getMethodDescriptor(method));
        }
    }

    private final String prefix;

    CountedClasses(String packageName) {
        super(CountedClasses.class.getClassLoader());
        this.prefix = packageName + ".";
    }

    @Override
    protected Class<?> loadClass(String name, boolean resolve) throws ClassNotFoundException {
        boolean isOfPackage = name.startsWith(prefix) && name.indexOf('.', prefix.length()) < 0;
        if (!isOfPackage || name.startsWith(Steps.class.getName())) {
            return super.loadClass(name, resolve);
        }
        synchronized (getClassLoadingLock(name)) {
            Class<?> loaded = findLoadedClass(name);
            return loaded != null ? loaded : counted(name);
        }
    }

    private Class<?> counted(String name) throws ClassNotFoundException {
        try (InputStream stream = getParent().getResourceAsStream(name.replace('.', '/') + ".class")) {
            if (stream == null) {
                throw new ClassNotFoundException(name);
            }
            ClassReader reader = new ClassReader(stream);
            ClassWriter writer = new ClassWriter(reader, ClassWriter.COMPUTE_MAXS);
            reader.accept(new Counting(writer), 0);
            byte[] bytes = writer.toByteArray();
            return defineClass(name, bytes, 0, bytes.length);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static final class Counting extends ClassVisitor {
        Counting(ClassVisitor next) {
            super(Opcodes.ASM9, next);
        }

        @Override
        public MethodVisitor visitMethod(int access, String name, String type, String signature, String[] exceptions) {
            return new CountingMethod(super.visitMethod(access, name, type, signature, exceptions));
        }
    }

    private static final class CountingMethod extends MethodVisitor {
        private final Set<Label> before = new HashSet<>();

        CountingMethod(MethodVisitor next) {
            super(Opcodes.ASM9, next);
        }

        @Override
        public void visitLabel(Label label) {
            before.add(label);
            super.visitLabel(label);
        }

        @Override
        public void visitJumpInsn(int opcode, Label label) {
            if (before.contains(label)) {
                super.visitMethodInsn(Opcodes.INVOKESTATIC, STEPS, "loop", "()V", false);
            }
            super.visitJumpInsn(opcode, label);
        }

        @Override
        public void visitMethodInsn(int opcode, String owner, String name, String type, boolean ofInterface) {
            boolean isCounted = opcode == Opcodes.INVOKEVIRTUAL && owner.equals(STRING) && !FREE.contains(name);
            String withText = "(L" + STRING + ";" + type.substring(1);
            if (isCounted && COUNTED.contains(name + withText)) {
                super.visitMethodInsn(Opcodes.INVOKESTATIC, STEPS, name, withText, false);
                return;
            }
            if (isCounted) {
                countWhole(name, type);
            }
            super.visitMethodInsn(opcode, owner, name, type, ofInterface);
        }

        /** With the text, and one value behind it, on the stack. */
        private void countWhole(String name, String type) {
            Type[] arguments = Type.getArgumentTypes(type);
            if (arguments.length > 1 || Arrays.stream(arguments).anyMatch(each -> each.getSize() > 1)) {
                throw new IllegalStateException("String." + name + type + " is called, and Steps does not count it");
            }
            if (arguments.length == 0) {
                super.visitInsn(Opcodes.DUP);
            } else {
                super.visitInsn(Opcodes.DUP2);
                super.visitInsn(Opcodes.POP);
            }
            super.visitMethodInsn(Opcodes.INVOKESTATIC, STEPS, "whole", "(L" + STRING + ";)V", false);
        }
    }
}
