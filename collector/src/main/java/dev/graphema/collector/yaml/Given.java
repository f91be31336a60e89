package dev.graphema.collector.yaml;

import dev.graphema.lines.yaml.YamlFile;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;

/** A mapping of a settings file whose members are known and have the form that is expected. Errors are collected. For one thread. */
public final class Given {
    private final YamlFile yaml;
    private final UnaryOperator<String> variables;
    private final List<String> problems;
    private final Node node;
    private final Map<String, Node> nodes = new LinkedHashMap<>();
    private final Map<String, Object> values = new LinkedHashMap<>();

    /**
     * Reads a mapping.
     *
     * @param node null for the document
     * @param variables replaces the variables in a value
     * @param problems receives all errors with their places
     */
    public Given(
            YamlFile yaml, Node node, List<Member> members, UnaryOperator<String> variables, List<String> problems) {
        this.yaml = yaml;
        this.node = node;
        this.variables = variables;
        this.problems = problems;
        List<String> names = members.stream().map(Member::name).toList();
        String expected = String.join(", ", names);
        try {
            for (NodeTuple each : node == null ? yaml.members(expected) : yaml.members(node, expected)) {
                String name = yaml.text(each.getKeyNode());
                Node value = each.getValueNode();
                members.stream()
                        .filter(member -> member.name().equals(name))
                        .findAny()
                        .ifPresentOrElse(
                                member -> read(member, value),
                                () -> problem(
                                        each.getKeyNode(),
                                        "\"" + name + "\" is not known: expected one of " + expected
                                                + Nearest.hint(name, names)));
            }
        } catch (IOException e) {
            problems.add(e.getMessage());
        }
        for (Member each : members) {
            if (each.isRequired() && !nodes.containsKey(each.name()) && node != null) {
                problem(node, each.name() + " is missing: expected " + each.meaning());
            }
        }
    }

    private void read(Member member, Node value) {
        nodes.put(member.name(), value);
        try {
            values.put(member.name(), value(member, value));
        } catch (IOException e) {
            problems.add(e.getMessage());
        } catch (IllegalArgumentException e) {
            problem(value, member.name() + ": " + e.getMessage());
        }
    }

    private Object value(Member member, Node value) throws IOException {
        switch (member.kind()) {
            case TEXTS:
                List<String> texts = new ArrayList<>();
                for (String each : yaml.texts(value)) {
                    texts.add(variables.apply(each));
                }
                return texts;
            case GROUP:
                return new Given(yaml, value, member.members(), variables, problems);
            case GROUPS:
                List<Given> groups = new ArrayList<>();
                for (Node each : yaml.elements(value)) {
                    groups.add(new Given(yaml, each, member.members(), variables, problems));
                }
                return groups;
            default:
                return single(member, variables.apply(yaml.text(value)));
        }
    }

    private static Object single(Member member, String text) {
        boolean isBoolean = text.equals("true") || text.equals("false");
        if (member.kind() == Member.Kind.BOOLEAN && isBoolean) {
            return text.equals("true");
        }
        if (member.kind() == Member.Kind.NUMBER && text.matches("[0-9]{1,9}")) {
            return Long.parseLong(text);
        }
        if (member.kind() == Member.Kind.TEXT && !text.isBlank()) {
            return text;
        }
        throw new IllegalArgumentException(
                "\"" + text + "\" is not " + member.kind().expected() + ": expected " + member.meaning());
    }

    /** Returns whether a member has a valid value. */
    public boolean has(String name) {
        return values.containsKey(name);
    }

    /** Returns a text; null if it is not given. */
    public String text(String name) {
        return (String) values.get(name);
    }

    /** @param missing the value of a member that is not given */
    public boolean bool(String name, boolean missing) {
        return has(name) ? (Boolean) values.get(name) : missing;
    }

    /** @param missing the value of a member that is not given */
    public long number(String name, long missing) {
        return has(name) ? (Long) values.get(name) : missing;
    }

    /** Returns texts; empty if they are not given. */
    @SuppressWarnings("unchecked")
    public List<String> texts(String name) {
        return has(name) ? (List<String>) values.get(name) : List.of();
    }

    /** Returns a group; null if it is not given. */
    public Given group(String name) {
        return (Given) values.get(name);
    }

    /** Returns the groups of a list; empty if it is not given. */
    @SuppressWarnings("unchecked")
    public List<Given> groups(String name) {
        return has(name) ? (List<Given>) values.get(name) : List.of();
    }

    /** Records an error of a member. */
    public void problem(String name, String message) {
        problem(nodes.getOrDefault(name, node), name + ": " + message);
    }

    private void problem(Node place, String message) {
        problems.add(yaml.problem(place, message).getMessage());
    }
}
