package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/** Prints a script with which a shell completes verbs, options and files. */
public final class CompletionVerb extends Verb {
    private static final String BASH = """
            # Completion of graphema for bash: source <(graphema completion bash)
            _graphema() {
              local word=${COMP_WORDS[COMP_CWORD]} options=
              if [ "$COMP_CWORD" -eq 1 ]; then
                COMPREPLY=($(compgen -W "@VERBS@" -- "$word"))
                return
              fi
              case ${COMP_WORDS[1]} in
            @OPTIONS@
              esac
              case $word in
                -*) COMPREPLY=($(compgen -W "$options" -- "$word")) ;;
                *) COMPREPLY=($(compgen -f -- "$word")) ;;
              esac
            }
            complete -o filenames -F _graphema graphema
            """;

    private static final String ZSH = """
            #compdef graphema
            # Completion of graphema for zsh: source <(graphema completion zsh)
            _graphema() {
              local options=
              if (( CURRENT == 2 )); then
                compadd -- @VERBS@
                return
              fi
              case ${words[2]} in
            @OPTIONS@
              esac
              case ${words[CURRENT]} in
                -*) compadd -- ${=options} ;;
                *) _files ;;
              esac
            }
            compdef _graphema graphema
            """;

    private final Supplier<List<Verb>> verbs;
    private final Argument<String> shell = own().word("SHELL", "The shell: bash or zsh.");

    /** @param verbs returns all verbs */
    public CompletionVerb(Supplier<List<Verb>> verbs) {
        super("completion", "Prints a script for the completion of this command in bash or zsh.");
        this.verbs = verbs;
    }

    @Override
    protected String examples() {
        return """
                source <(graphema completion bash)
                graphema completion zsh > ~/.zfunc/_graphema
                """;
    }

    @Override
    public int call() throws MisuseException {
        String script = switch (shell.value()) {
            case "bash" -> BASH;
            case "zsh" -> ZSH;
            default ->
                throw new MisuseException("there is no completion for \"" + shell.value() + "\": expected bash or zsh");
        };
        List<Verb> all = verbs.get();
        String names = all.stream().map(Verb::name).collect(Collectors.joining(" "));
        String options = all.stream()
                .map(verb -> "    " + verb.name() + ") options=\"" + String.join(" ", verb.options()) + "\" ;;")
                .collect(Collectors.joining("\n"));
        console()
                .print(script.replace("@VERBS@", names)
                        .replace("@OPTIONS@", options)
                        .stripTrailing());
        return 0;
    }
}
