/*
 * The list of the formats of image files: a row for each. The first whose beginning fits a file
 * counts.
 */
#include <coldmint/host/image_file.h>

const struct cm_file_format *const cm_all_formats[] = {&cm_format_hex, &cm_format_srec,
                                                       &cm_format_elf, &cm_format_raw, NULL};
