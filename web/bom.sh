#!/bin/sh
# Joins the bills of materials of both halves and the Java runtime: bom.sh SERVER_BOM RESULT JAVA_VERSION JAVA_VENDOR
set -e
server=$1 result=$2 version=$3 vendor=$4
cd "$(dirname "$0")"
npm sbom --silent --sbom-format cyclonedx --sbom-type application --omit dev >"$(dirname "$result")/bom/interface.json"
node bom.mjs "$server" "$(dirname "$result")/bom/interface.json" "$result" "$version" "$vendor"
