/*
 * Reads a desk's YAML file by its schema (docs/desk.md lists the keys).
 */
#include "desk.h"
#include "../yaml_load.h"

enum { TEXT = 200 };

static const cyaml_schema_value_t LINE = {CYAML_VALUE_STRING(CYAML_FLAG_POINTER, char, 1, TEXT)};

#define OPTIONAL_TEXT(key, structure, member)                                                      \
    CYAML_FIELD_STRING_PTR(key, CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, structure, member, 1,    \
                           TEXT)
#define NAMED_LINE(key) OPTIONAL_TEXT(#key, struct desk_lines, named[CM_LINE_##key])

static const cyaml_schema_field_t SPI_FIELDS[] = {
    OPTIONAL_TEXT("device", struct desk_spi, device),
    CYAML_FIELD_UINT("max_clock_hz", CYAML_FLAG_OPTIONAL, struct desk_spi, max_clock_hz),
    CYAML_FIELD_END};

static const cyaml_schema_field_t I2C_FIELDS[] = {
    OPTIONAL_TEXT("device", struct desk_i2c, device),
    CYAML_FIELD_UINT("clock_hz", CYAML_FLAG_OPTIONAL, struct desk_i2c, clock_hz), CYAML_FIELD_END};

static const cyaml_schema_field_t MODEM_FIELDS[] = {
    OPTIONAL_TEXT("device", struct desk_modem, device), CYAML_FIELD_END};

static const cyaml_schema_field_t LINE_FIELDS[] = {
    NAMED_LINE(RESET),  NAMED_LINE(SCK), NAMED_LINE(MOSI),  NAMED_LINE(MISO),
    NAMED_LINE(SELECT), NAMED_LINE(WP),  NAMED_LINE(HOLD),  NAMED_LINE(CE),
    NAMED_LINE(OE),     NAMED_LINE(WE),  NAMED_LINE(A9_ID), NAMED_LINE(VPP),
    NAMED_LINE(LATCH),  NAMED_LINE(SDA), NAMED_LINE(SCL),   CYAML_FIELD_END};

static const cyaml_schema_field_t SUPPLY_FIELDS[] = {
    OPTIONAL_TEXT("switch", struct desk_supply, power),
    CYAML_FIELD_UINT("mv", CYAML_FLAG_OPTIONAL, struct desk_supply, mv),
    OPTIONAL_TEXT("measure", struct desk_supply, measure),
    CYAML_FIELD_FLOAT("times", CYAML_FLAG_OPTIONAL, struct desk_supply, times), CYAML_FIELD_END};

static const cyaml_schema_field_t DESK_FIELDS[] = {
    CYAML_FIELD_STRING_PTR("desk", CYAML_FLAG_POINTER, struct desk, title, 1, TEXT),
    CYAML_FIELD_MAPPING("spi", CYAML_FLAG_OPTIONAL, struct desk, spi, SPI_FIELDS),
    CYAML_FIELD_MAPPING("i2c", CYAML_FLAG_OPTIONAL, struct desk, i2c, I2C_FIELDS),
    CYAML_FIELD_MAPPING("modem", CYAML_FLAG_OPTIONAL, struct desk, modem, MODEM_FIELDS),
    CYAML_FIELD_MAPPING("lines", CYAML_FLAG_OPTIONAL, struct desk, lines, LINE_FIELDS),
    CYAML_FIELD_SEQUENCE("data", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct desk, data, &LINE,
                         8, DESK_DATA),
    CYAML_FIELD_SEQUENCE("address", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct desk, address,
                         &LINE, 1, DESK_ADDRESSES),
    CYAML_FIELD_MAPPING("supply", CYAML_FLAG_OPTIONAL, struct desk, supply, SUPPLY_FIELDS),
    CYAML_FIELD_UINT("priority", CYAML_FLAG_OPTIONAL, struct desk, priority),
    CYAML_FIELD_END};

static const cyaml_schema_value_t DESK = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_POINTER, struct desk, DESK_FIELDS)};

struct desk *desk_load(const char *path, char *error, size_t room)
{
    struct desk *desk = yaml_load(path, &DESK, error, room);
    if (!desk || desk_check(desk, error, room))
        return desk;
    desk_free(desk);
    return NULL;
}

void desk_free(struct desk *desk)
{
    yaml_unload(&DESK, desk);
}
