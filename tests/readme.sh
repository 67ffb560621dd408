#!/bin/sh
# Hardware: simulated benches, as a new user makes them: every command of the README, in order, in a fresh folder, ends as the
# README says: good, or with the code in "(exit N)" in its comment.
#
# Usage: readme.sh TOOL SOURCE_FOLDER
set -eu
tool=$1 source=$2
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
mkdir "$folder/bin" "$folder/work"
ln -s "$tool" "$folder/bin/coldmint"
cp -r "$source/demo" "$folder/work/demo"
cd "$folder/work"
PATH="$folder/bin:$PATH" XDG_STATE_HOME="$folder/state" XDG_CONFIG_HOME="$folder/config"
export PATH XDG_STATE_HOME XDG_CONFIG_HOME
unset COLDMINT_VIA || true

# the user's own files
head -c 40000 "$source/README.md" >tunes.bin
{ head -c 524000 /dev/zero | tr '\0' '\377'; printf 'may morning, and what comes behind it'; head -c 251 /dev/zero; } >master.bin
head -c 3000 "$source/README.md" >tune.bin

for picture in "$source"/docs/screenshots/*.png; do
    grep -q "docs/screenshots/$(basename "$picture"))" "$source/README.md" || { echo "$picture is not linked" >&2; exit 1; }
done

sed -n 's/^    coldmint /coldmint /p' "$source/README.md" >commands
count=0
while IFS= read -r line; do
    command=${line%%  #*}
    wanted=$(printf '%s' "$line" | sed -n 's/.*(exit \([0-9]*\)).*/\1/p')
    got=0
    sh -c "$command" >output 2>&1 </dev/null || got=$?
    if [ "$got" != "${wanted:-0}" ]; then
        echo "README: $command"
        echo "ended with $got, not ${wanted:-0}:"
        cat output
        exit 1
    fi
    count=$((count + 1))
done <commands
[ "$count" -ge 20 ] || { echo "only $count commands found in the README"; exit 1; }
echo "$count commands of the README end as it says"
