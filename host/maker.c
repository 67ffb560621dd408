/*
 * Makers' keys: Ed25519, by libcrypto.
 */
#include "inside.h"
#include "maker.h"
#include <errno.h>
#include <fcntl.h>
#include <openssl/evp.h>
#include <openssl/pem.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static bool fail(struct cm_host *host, const char *path, const char *detail)
{
    HOST_COPY(host_error(host, CM_ERROR_KEY, path)->detail, detail);
    return false;
}

/* Keys with a password are not asked for one: the file's rights protect it. */
static int no_password(char *text, int room, int writing, void *context)
{
    (void)text, (void)room, (void)writing, (void)context;
    return -1;
}

static EVP_PKEY *read_key(FILE *file, bool *can_sign)
{
    EVP_PKEY *key = PEM_read_PrivateKey(file, NULL, no_password, NULL);
    *can_sign = key != NULL;
    if (key)
        return key;
    rewind(file);
    return PEM_read_PUBKEY(file, NULL, no_password, NULL);
}

bool cm_maker_load(struct cm_host *host, const char *path, struct cm_maker *maker)
{
    memset(maker, 0, sizeof *maker);
    int descriptor = cm_file_open(host, path);
    FILE *file = descriptor >= 0 ? fdopen(descriptor, "rb") : NULL;
    if (!file)
        return host_fail_opening(host, path, errno);
    EVP_PKEY *key = read_key(file, &maker->can_sign);
    size_t bytes = sizeof maker->key;
    fclose(file);
    maker->own = key;
    if (!key)
        return fail(host, path, "no private or public key in PEM, without a password");
    if (EVP_PKEY_id(key) != EVP_PKEY_ED25519 ||
        EVP_PKEY_get_raw_public_key(key, maker->key, &bytes) != 1 || bytes != sizeof maker->key)
        return fail(host, path, "a key of another kind than Ed25519");
    if (cm_key_is_weak(maker->key))
        return fail(host, path, "a key of small order: everybody can sign with it");
    return true;
}

void cm_maker_free(struct cm_maker *maker)
{
    EVP_PKEY_free(maker->own);
    maker->own = NULL;
}

bool maker_sign(const struct cm_maker *maker, const uint8_t *text, size_t bytes, uint8_t *signature)
{
    EVP_MD_CTX *context = EVP_MD_CTX_new();
    size_t count = CM_SIGNATURE_BYTES;
    bool good = context && EVP_DigestSignInit(context, NULL, NULL, NULL, maker->own) == 1 &&
                EVP_DigestSign(context, signature, &count, text, bytes) == 1 &&
                count == CM_SIGNATURE_BYTES;
    EVP_MD_CTX_free(context);
    return good;
}

bool cm_maker_verify(const uint8_t *key, const uint8_t *signature, const uint8_t *message,
                     uint32_t bytes)
{
    EVP_PKEY *own = EVP_PKEY_new_raw_public_key(EVP_PKEY_ED25519, NULL, key, CM_KEY_BYTES);
    EVP_MD_CTX *context = EVP_MD_CTX_new();
    bool good = own && context && EVP_DigestVerifyInit(context, NULL, NULL, NULL, own) == 1 &&
                EVP_DigestVerify(context, signature, CM_SIGNATURE_BYTES, message, bytes) == 1;
    EVP_MD_CTX_free(context);
    EVP_PKEY_free(own);
    return good;
}

/* --- new keys ---------------------------------------------------------------------------- */

/* The private key's file is its owner's alone from the beginning on. */
static bool write_key(struct cm_host *host, EVP_PKEY *key, const char *path, bool is_private)
{
    struct cm_new_file file;
    if (!cm_new_file_open(host, path, &file))
        return false;
    bool good = !is_private || fchmod(fileno(file.stream), S_IRUSR | S_IWUSR) == 0;
    good = good && (is_private ? PEM_write_PrivateKey(file.stream, key, NULL, NULL, 0, NULL, NULL)
                               : PEM_write_PUBKEY(file.stream, key)) == 1;
    if (good)
        return cm_new_file_commit(host, &file);
    int error = errno;
    cm_new_file_drop(&file);
    return host_fail_system(host, CM_ERROR_FILE_INCOMPLETE, path, error);
}

bool cm_maker_make(struct cm_host *host, const char *private_path, const char *public_path)
{
    const bool replace = host->replace;
    host->replace = false; // a key that is lost is lost for good
    if (access(public_path, F_OK) == 0)
        return host_fail(host, CM_ERROR_FILE_EXISTS, public_path);
    EVP_PKEY *key = EVP_PKEY_Q_keygen(NULL, NULL, "ED25519");
    bool good =
        key ? write_key(host, key, private_path, true) && write_key(host, key, public_path, false)
            : fail(host, private_path, "this computer cannot make one");
    EVP_PKEY_free(key);
    host->replace = replace;
    return good;
}
