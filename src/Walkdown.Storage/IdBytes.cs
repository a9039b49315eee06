using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace Walkdown.Storage;

/// <summary>
/// An id as its 16 bytes (RFC 9562, highest first): less than half of its text, in the same order, so that ids made later stand behind
/// those made before.
/// </summary>
internal static class IdBytes
{
    public const int Length = 16;

    public static byte[] Of(Guid id) => id.ToByteArray(bigEndian: true);

    /// <exception cref="ArgumentException">Not 16 bytes: no program wrote it.</exception>
    public static Guid Read(byte[] bytes) => new(bytes, bigEndian: true);

    /// <summary><see cref="Guid.Empty"/> where the bytes are no id.</summary>
    public static Guid ReadOrNobody(byte[] bytes) => bytes.Length == Length ? Read(bytes) : Guid.Empty;

    /// <summary>As every column holds it.</summary>
    internal sealed class Converter() : ValueConverter<Guid, byte[]>(id => Of(id), bytes => Read(bytes));
}
