package dev.graphema.settings;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.snakeyaml.engine.v2.common.FlowStyle;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.Tag;

/**
 * Merges two mappings: nested mappings in both are merged; other values, and lists, of the upper one replace those of
 * the lower one. Every node keeps its position.
 */
final class Overlay {
    private Overlay() {}

    static Node over(Node below, Node above) {
        if (!(below instanceof MappingNode lower) || !(above instanceof MappingNode upper)) {
            return above;
        }
        Map<String, NodeTuple> merged = new LinkedHashMap<>();
        List<NodeTuple> nameless = new ArrayList<>();
        for (MappingNode each : List.of(lower, upper)) {
            Set<String> own = new HashSet<>();
            for (NodeTuple tuple : each.getValue()) {
                if (tuple.getKeyNode() instanceof ScalarNode key && own.add(key.getValue())) {
                    NodeTuple known = merged.get(key.getValue());
                    merged.put(
                            key.getValue(),
                            known == null
                                    ? tuple
                                    : new NodeTuple(
                                            tuple.getKeyNode(), over(known.getValueNode(), tuple.getValueNode())));
                } else {
                    nameless.add(tuple); // no name, or a repeated one: an error, which the reader reports
                }
            }
        }
        List<NodeTuple> all = new ArrayList<>(merged.values());
        all.addAll(nameless);
        return mapping(upper, all);
    }

    /** Returns the mapping without these names. */
    static Node without(Node node, Set<String> names) {
        if (!(node instanceof MappingNode mapping)) {
            return node;
        }
        return mapping(
                mapping,
                mapping.getValue().stream()
                        .filter(tuple ->
                                !(tuple.getKeyNode() instanceof ScalarNode key) || !names.contains(key.getValue()))
                        .toList());
    }

    /** Returns the node with this name, or null. */
    static Node get(Node node, String name) {
        if (node instanceof MappingNode mapping) {
            for (NodeTuple tuple : mapping.getValue()) {
                if (tuple.getKeyNode() instanceof ScalarNode key
                        && key.getValue().equals(name)) {
                    return tuple.getValueNode();
                }
            }
        }
        return null;
    }

    private static MappingNode mapping(Node where, List<NodeTuple> tuples) {
        return new MappingNode(Tag.MAP, true, tuples, FlowStyle.BLOCK, where.getStartMark(), where.getEndMark());
    }
}
