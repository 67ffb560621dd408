/* For builds with the sanitizers only: the font library under cairo keeps its tables to the end of
 * the process. */
const char *__lsan_default_suppressions(void);

const char *__lsan_default_suppressions(void)
{
    return "leak:libfontconfig\n";
}

const char *__lsan_default_options(void);

const char *__lsan_default_options(void)
{
    return "print_suppressions=0";
}
