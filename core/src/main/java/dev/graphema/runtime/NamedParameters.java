package dev.graphema.runtime;

import dev.graphema.management.GraphemaMXBean;
import java.lang.reflect.Method;
import java.util.Arrays;
import javax.management.MBeanOperationInfo;
import javax.management.MBeanParameterInfo;
import javax.management.StandardMBean;

/** The bean of a runtime, whose operations have parameters with the names of the methods instead of numbers. */
final class NamedParameters extends StandardMBean {
    NamedParameters(GraphemaMXBean bean) {
        super(bean, GraphemaMXBean.class, true);
    }

    @Override
    protected String getParameterName(MBeanOperationInfo operation, MBeanParameterInfo parameter, int sequence) {
        return Arrays.stream(GraphemaMXBean.class.getMethods())
                .filter(method -> isOf(method, operation))
                .map(method -> method.getParameters()[sequence].getName())
                .findFirst()
                .orElse(parameter.getName());
    }

    private static boolean isOf(Method method, MBeanOperationInfo operation) {
        return method.getName().equals(operation.getName())
                && method.getParameterCount() == operation.getSignature().length;
    }
}
