#!/bin/bash
# bash completion as a shell asks for it: words so far, and the word at hand. Argument: the folder
# of the tool.
set -eu
PATH=$1:$PATH
. "$(dirname "$0")/../cli/coldmint.bash"

# What is offered for a line, whose last word is being typed.
offered() {
    COMP_WORDS=("$@")
    COMP_CWORD=$((${#COMP_WORDS[@]} - 1))
    _coldmint
    printf '%s\n' "${COMPREPLY[@]-}"
}

wants() { # one offer, the line
    local due=$1
    shift
    offered "$@" | grep -qx -- "$due" || { echo "'$*' does not offer '$due'"; exit 1; }
}

wants_none() { # an offer that must be absent, the line
    local not_due=$1
    shift
    if offered "$@" | grep -qx -- "$not_due"; then echo "'$*' offers '$not_due'"; exit 1; fi
}

wants put coldmint pu
wants match coldmint ""
wants --unprotect coldmint put --
wants --via= coldmint put --v
wants_none --unprotect coldmint chips --
wants attiny84a coldmint put --chip attiny8
wants w25q64 coldmint put --chip = w25q
wants sst39sf040 coldmint chips sst39
wants clock= coldmint tune --chip attiny84a cl
wants internal-8MHz coldmint tune --chip attiny84a clock = internal
wants internal-8MHz coldmint tune --chip = attiny84a clock =
wants_none internal-8MHz coldmint tune --chip at90s1200 clock = internal
