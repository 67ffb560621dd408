# Read by checks that run in emulators: what has passed with the same programs, the same seed and nothing else changed is not run
# again. COLDMINT_AGAIN=1 runs it all the same.
#
#     key=$(key_of FILE...)         of what the check depends on, beside itself
#     has_passed STAMP "$key"       with just that?
#     note_passed STAMP "$key"
key_of() {
    {
        echo "${COLDMINT_SEED:-$(date -u +%Y%m%d)} ${COLDMINT_ALL:-}"
        cat "$0" "$@"
    } | sha256sum
}

has_passed() {
    [ -z "${COLDMINT_AGAIN:-}" ] && [ "$(cat "$1" 2>/dev/null)" = "$2" ] || return 1
    echo "nothing has changed since it passed"
}

note_passed() {
    printf '%s\n' "$2" >"$1"
}
