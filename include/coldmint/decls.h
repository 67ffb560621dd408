/**
 * What stands around the declarations of each public header: C linkage for C++ programs; and, where
 * the library is built as a shared one, that these names are exported, and no others.
 */
#ifndef COLDMINT_DECLS_H
#define COLDMINT_DECLS_H

#ifdef __GNUC__
#define CM_EXPORTS_BEGIN _Pragma("GCC visibility push(default)")
#define CM_EXPORTS_END   _Pragma("GCC visibility pop")
#else
#define CM_EXPORTS_BEGIN
#define CM_EXPORTS_END
#endif

#ifdef __cplusplus
#define CM_DECLS_BEGIN                                                                             \
    CM_EXPORTS_BEGIN extern "C"                                                                    \
    {
#define CM_DECLS_END                                                                               \
    }                                                                                              \
    CM_EXPORTS_END
#else
#define CM_DECLS_BEGIN CM_EXPORTS_BEGIN
#define CM_DECLS_END   CM_EXPORTS_END
#endif

#endif
