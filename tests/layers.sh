#!/bin/bash
# What the layers must not know: nothing above a family's folder compares a family by its address,
# no list is indexed by a number that is known by heart, and the host library and the tool name no
# family at all. Usage: layers.sh SOURCE_FOLDER
cd "$1" || exit 1
found=$(grep -rnE 'family *[!=]= *&cm_|&cm_[a-z0-9]+ *[!=]= *[a-z>.-]*family' \
    cli host core/job core/capsule core/image core/bus ports examples)
found+=$(grep -rnE 'kits\[[1-9]' cli host ports examples)
families=$(ls core/families | grep -v '\.' | paste -sd'|')
found+=$(grep -rniE "cm_($families)(\$|[^a-z])" cli host include/coldmint/host)
if [ -n "$found" ]; then
    echo "a family is known by its name, its address, or its place in a list:"
    echo "$found"
    exit 1
fi
# Arrows run downward only: the host library knows no tool, and includes no port but their contract.
found=$(grep -rnE '#include [<"](sim/|record/|\.\./cli|cli/)' host include/coldmint/host)
found+=$(grep -rnE '#include [<"](coldmint/host|\.\./host|\.\./cli|sim/)' core include/coldmint/*.h | grep -v 'include/coldmint/host.h')
# The host library never prints, and never exits.
found+=$(grep -rnE '\b(printf|puts|putchar|perror|exit|abort|stdout|stderr) *[(,;]' host | grep -vE 'snprintf|sprintf|fprintf\(file')
if [ -n "$found" ]; then
    echo "a layer reaches upward, or the host library speaks:"
    echo "$found"
    exit 1
fi
circle=$(mktemp)
# No two files of the host library or the tool use each other, by way of others either.
pairs=$(grep -rnoE '#include "[^"]+"' --include=*.[ch] cli host | while IFS=: read -r file _ name; do
    name=${name#*\"}
    name=${name%\"}
    from=${file%.*}
    for folder in "$(dirname "$file")" cli ports; do
        [ -f "$folder/$name" ] && echo "$from $folder/${name%.*}" && break
    done
done | awk '$1 != $2')
if ! echo "$pairs" | tsort >/dev/null 2>"$circle"; then
    echo "files that use each other:"
    cat "$circle"
    rm -f "$circle"
    exit 1
fi
rm -f "$circle"
