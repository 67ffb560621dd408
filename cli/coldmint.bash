# bash completion for coldmint: verbs, options, chips, settings and their choices, from the tool.

_coldmint() {
    local word=${COMP_WORDS[COMP_CWORD]} verb=${COMP_WORDS[1]-} before=${COMP_WORDS[COMP_CWORD - 1]-}
    local chip='' i=1
    COMPREPLY=()
    [ "$word" = = ] && before=${COMP_WORDS[COMP_CWORD - 1]} word=''
    [ "$before" = = ] && before=${COMP_WORDS[COMP_CWORD - 2]-}
    while [ $i -lt "$COMP_CWORD" ]; do
        if [ "${COMP_WORDS[i]}" = --chip ]; then
            chip=${COMP_WORDS[i + 1]-}
            [ "$chip" = = ] && chip=${COMP_WORDS[i + 2]-}
        fi
        i=$((i + 1))
    done
    if [ "$COMP_CWORD" -eq 1 ]; then
        COMPREPLY=($(compgen -W "$(coldmint --words verbs)" -- "$word"))
    elif [ "$before" = --chip ] || { [ "$verb" = chips ] && [ "${word#-}" = "$word" ]; }; then
        COMPREPLY=($(compgen -W "$(coldmint --words chips)" -- "$word"))
    elif [ "${word#-}" != "$word" ]; then
        COMPREPLY=($(compgen -W "$(coldmint --words options "$verb")" -- "$word"))
        case "${COMPREPLY[0]-}" in *=) compopt -o nospace 2>/dev/null ;; esac
    elif [ "$verb" = tune ] && [ -n "$chip" ]; then
        local settings
        settings=$(coldmint --words settings "$chip")
        if [ "${COMP_WORDS[COMP_CWORD]}" = = ] || [ "${COMP_WORDS[COMP_CWORD - 1]-}" = = ]; then
            # readline takes the = for the end of a word: only the choice is completed
            COMPREPLY=($(compgen -W "$(printf '%s\n' "$settings" | sed -n "s/^$before=//p")" -- "$word"))
        else
            COMPREPLY=($(compgen -W "$(printf '%s\n' "$settings" | sed 's/=.*/=/' | sort -u)" -- "$word"))
            compopt -o nospace 2>/dev/null
        fi
    else
        compopt -o default 2>/dev/null
    fi
    return 0
}
complete -F _coldmint coldmint
