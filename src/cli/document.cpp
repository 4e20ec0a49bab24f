#include "cli/document.h"

#include <iostream>
#include <vector>

#include <CLI/CLI.hpp>

#include "cli/commands.h"
#include "core/quantity/version.h"

namespace otterstone::cli {

namespace {

// One command with all that stands before it: "path resistance".
struct Command {
    std::string name;
    const CLI::App* app;
};

void gather(const CLI::App& app, const std::string& before, std::vector<Command>& all) {
    for (const CLI::App* sub : app.get_subcommands([](const CLI::App* a) { return !a->get_group().empty(); })) {
        const std::string name = before.empty() ? sub->get_name() : before + " " + sub->get_name();
        all.push_back({name, sub});
        gather(*sub, name, all);
    }
}

std::vector<Command> commandsOf(const CLI::App& app) {
    std::vector<Command> all;
    gather(app, "", all);
    return all;
}

std::vector<const CLI::Option*> optionsOf(const CLI::App& app) {
    return app.get_options([](const CLI::Option* o) { return !o->get_group().empty(); });
}

std::string longName(const CLI::Option& o) { return o.get_lnames().empty() ? "" : "--" + o.get_lnames().front(); }

bool takesValue(const CLI::Option& o) { return o.get_items_expected_max() > 0; }

// Hyphens that are typed stay hyphens; a line that begins with a full stop or an apostrophe is no request.
std::string roff(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '\\')
            out += "\\e";
        else if (c == '-')
            out += "\\-";
        else
            out += c;
    }
    return !out.empty() && (out.front() == '.' || out.front() == '\'') ? "\\&" + out : out;
}

// Inside single quotes of a shell.
std::string quoted(const std::string& text) {
    std::string out = "'";
    for (const char c : text)
        out += c == '\'' ? std::string("'\\''") : std::string(1, c);
    return out + "'";
}

std::string words(const CLI::App& app) {
    std::string all;
    for (const CLI::App* sub : app.get_subcommands([](const CLI::App* a) { return !a->get_group().empty(); }))
        all += (all.empty() ? "" : " ") + sub->get_name();
    for (const CLI::Option* o : optionsOf(app)) {
        if (const std::string name = longName(*o); !name.empty())
            all += (all.empty() ? "" : " ") + name;
    }
    return all;
}

// The first line of a description, without what zsh reads as the end of it.
std::string inBrackets(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '[' || c == ']' || c == ':' || c == '\\')
            out += '\\';
        out += c;
    }
    return out;
}

} // namespace

std::string manualPage(const CLI::App& app) {
    std::string page = ".TH OTTERSTONE\\-CLI 1 \"\" \"Otterstone " + version() +
                       "\" \"User Commands\"\n.SH NAME\notterstone\\-cli \\- " +
                       "measure, work out and judge portable power banks\n.SH SYNOPSIS\n.B otterstone\\-cli\n"
                       ".I COMMAND\n[\\fIOPTIONS\\fR]\n.SH DESCRIPTION\n" +
                       roff(app.get_description()) +
                       ".\nNo command needs a display. With\n.B \\-\\-json\none object is printed on standard output; "
                       "everything else goes to standard error.\n.SH COMMANDS\n";
    for (const Command& c : commandsOf(app)) {
        if (c.app->get_subcommands([](const CLI::App*) { return true; }).empty()) {
            page += ".SS \"" + roff(c.name);
            for (const CLI::Option* o : optionsOf(*c.app)) {
                if (o->get_positional())
                    page += " " + roff(o->get_name(true));
            }
            page += "\"\n" + roff(c.app->get_description()) + ".\n";
            if (const std::string example = c.app->get_footer(); !example.empty())
                page += ".PP\n.nf\n" + roff(example) + "\n.fi\n";
            for (const CLI::Option* o : optionsOf(*c.app)) {
                const std::string name = longName(*o);
                if (name.empty() || name == "--help")
                    continue;
                page += ".TP\n\\fB" + roff(name) + "\\fR" + (takesValue(*o) ? " \\fIVALUE\\fR" : "") + "\n" +
                        roff(o->get_description().empty() ? "as it is called" : o->get_description()) + "\n";
            }
        }
    }
    return page + ".SH EXIT STATUS\n.TP\n.B 0\ndone\n.TP\n.B 2\nwrong usage\n.TP\n.B 3\ninput that cannot be read, or "
                  "that contradicts itself; the message says how to mend it\n.TP\n.B 4\nthe result could not be "
                  "written\n.TP\n.B 5\na live run ended out of order, or a load may still be on\n.SH SEE ALSO\n"
                  ".BR otterstone (1)\n";
}

std::string bashCompletion(const CLI::App& app) {
    std::string out = "# Completion of otterstone-cli for bash. Made by \"otterstone-cli document bash\".\n"
                      "_otterstone_cli() {\n    local cur=${COMP_WORDS[COMP_CWORD]} command='' word all=''\n"
                      "    for word in \"${COMP_WORDS[@]:1:COMP_CWORD-1}\"; do\n"
                      "        case \"${command:+$command }$word\" in\n            ";
    const auto all = commandsOf(app);
    for (std::size_t k = 0; k < all.size(); ++k)
        out += (k == 0 ? "" : "|") + quoted(all[k].name);
    out +=
        ") command=\"${command:+$command }$word\" ;;\n        esac\n    done\n    case $command in\n        '') all=" +
        quoted(words(app)) + " ;;\n";
    for (const Command& c : all)
        out += "        " + quoted(c.name) + ") all=" + quoted(words(*c.app)) + " ;;\n";
    return out + "    esac\n    if [[ $cur == -* || -z $command ]]; then\n"
                 "        mapfile -t COMPREPLY < <(compgen -W \"$all\" -- \"$cur\")\n"
                 "    else\n        mapfile -t COMPREPLY < <(compgen -W \"$all\" -- \"$cur\"; compgen -f -- \"$cur\")\n"
                 "    fi\n}\ncomplete -o filenames -o bashdefault -F _otterstone_cli otterstone-cli\n";
}

std::string zshCompletion(const CLI::App& app) {
    std::string out =
        "#compdef otterstone-cli\n# Made by \"otterstone-cli document zsh\".\n_otterstone_cli() {\n"
        "    local command='' word\n    local -a all\n"
        "    for word in ${words[2,CURRENT-1]}; do\n        case \"${command:+$command }$word\" in\n            ";
    const auto commands = commandsOf(app);
    for (std::size_t k = 0; k < commands.size(); ++k)
        out += (k == 0 ? "(" : "|") + std::string() + quoted(commands[k].name);
    out += ") command=\"${command:+$command }$word\" ;;\n        esac\n    done\n    case $command in\n        '')\n"
           "            all=(";
    for (const CLI::App* sub : app.get_subcommands([](const CLI::App* a) { return !a->get_group().empty(); }))
        out += " " + quoted(inBrackets(sub->get_name()) + ":" + sub->get_description());
    out += " )\n            _describe command all\n            return ;;\n";
    for (const Command& c : commands) {
        out += "        " + quoted(c.name) + ")\n            all=(";
        for (const CLI::App* sub : c.app->get_subcommands([](const CLI::App* a) { return !a->get_group().empty(); }))
            out += " " + quoted(sub->get_name() + ":" + sub->get_description());
        for (const CLI::Option* o : optionsOf(*c.app)) {
            if (const std::string name = longName(*o); !name.empty())
                out += " " + quoted(name + ":" + o->get_description());
        }
        out += " ) ;;\n";
    }
    return out + "    esac\n    _describe option all\n    _files\n}\n_otterstone_cli \"$@\"\n";
}

void addDocumentCommand(CLI::App& app, int& code) {
    auto what = std::make_shared<std::string>();
    auto* document = app.add_subcommand("document", "Print the manual page or a shell's completion");
    document->group("");
    document->add_option("what", *what, "man, bash or zsh")->required();
    document->callback([&app, &code, what] {
        if (*what != "man" && *what != "bash" && *what != "zsh")
            throw CLI::ValidationError("document", "there is no “" + *what + "”. Give man, bash or zsh.");
        std::cout << (*what == "man" ? manualPage(app) : *what == "bash" ? bashCompletion(app) : zshCompletion(app));
        code = finish(kDone);
    });
}

} // namespace otterstone::cli
