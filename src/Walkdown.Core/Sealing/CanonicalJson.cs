using System.Buffers;
using System.Runtime.InteropServices;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Sealing;

/// <summary>
/// JSON in the one form that RFC 8785 allows: members in the order of their UTF-16 names, numbers as ECMAScript writes them, no white
/// space. Equal data are
/// equal bytes on every machine.
/// </summary>
public static class CanonicalJson
{
    /// <summary>As Core's shapes are written, with nothing escaped that need not be.</summary>
    private static readonly JsonSerializerOptions Plain = new(CoreJson.Options) { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>The canonical bytes of a value as Core's shapes are written.</summary>
    public static byte[] Of<T>(T value)
    {
        using var document = JsonDocument.Parse(JsonSerializer.SerializeToUtf8Bytes(value, Plain));
        return Of(document.RootElement);
    }

    /// <exception cref="BadInputException">A member twice, or a number that no double holds.</exception>
    public static byte[] Of(JsonElement value) => Bytes(value, skip: null);

    /// <summary>The canonical bytes of an object without one of its members.</summary>
    public static byte[] Without(JsonElement value, string member) => Bytes(value, member);

    private static byte[] Bytes(JsonElement value, string? skip)
    {
        var output = new ArrayBufferWriter<byte>(Math.Max(256, JsonMarshal.GetRawUtf8Value(value).Length + 16));
        Write(value, output, skip);
        return output.WrittenSpan.ToArray();
    }

    private static void Write(JsonElement value, ArrayBufferWriter<byte> output, string? skip)
    {
        switch (value.ValueKind)
        {
            case JsonValueKind.Object:
                var count = 0;
                var members = ArrayPool<JsonProperty>.Shared.Rent(16);
                foreach (var member in value.EnumerateObject())
                {
                    if (skip is not null && member.NameEquals(skip))
                        continue;
                    if (count == members.Length)
                    {
                        var larger = ArrayPool<JsonProperty>.Shared.Rent(count * 2);
                        members.CopyTo(larger, 0);
                        ArrayPool<JsonProperty>.Shared.Return(members, clearArray: true);
                        members = larger;
                    }
                    members[count++] = member;
                }
                members.AsSpan(0, count).Sort(static (a, b) => Compare(a, b));
                Put(output, (byte)'{');
                for (var i = 0; i < count; i++)
                {
                    Require.Consistent(i == 0 || Compare(members[i - 1], members[i]) != 0, "json.member-twice");
                    if (i > 0)
                        Put(output, (byte)',');
                    var name = JsonMarshal.GetRawUtf8PropertyName(members[i]);
                    if (IsPlain(name))
                    {
                        Put(output, (byte)'"');
                        output.Write(name);
                        Put(output, (byte)'"');
                    }
                    else
                        Text(members[i].Name, output);
                    Put(output, (byte)':');
                    Write(members[i].Value, output, null);
                }
                Put(output, (byte)'}');
                ArrayPool<JsonProperty>.Shared.Return(members, clearArray: true);
                break;
            case JsonValueKind.Array:
                Put(output, (byte)'[');
                var first = true;
                foreach (var item in value.EnumerateArray())
                {
                    if (!first)
                        Put(output, (byte)',');
                    first = false;
                    Write(item, output, null);
                }
                Put(output, (byte)']');
                break;
            case JsonValueKind.String:
                var raw = JsonMarshal.GetRawUtf8Value(value);
                if (IsPlain(raw))
                    output.Write(raw);
                else
                    Text(value.GetString()!, output);
                break;
            case JsonValueKind.Number:
                Digits(value, output);
                break;
            default:
                Ascii(
                    output,
                    value.ValueKind switch
                    {
                        JsonValueKind.True => "true",
                        JsonValueKind.False => "false",
                        _ => "null",
                    }
                );
                break;
        }
    }

    /// <summary>Order of names by their UTF-16 units; of plain ones that is the order of their bytes.</summary>
    private static int Compare(JsonProperty a, JsonProperty b)
    {
        ReadOnlySpan<byte> x = JsonMarshal.GetRawUtf8PropertyName(a),
            y = JsonMarshal.GetRawUtf8PropertyName(b);
        return IsPlain(x) && IsPlain(y) ? x.SequenceCompareTo(y) : string.CompareOrdinal(a.Name, b.Name);
    }

    /// <summary>ASCII without an escape: it stands in the canonical form as it stands here.</summary>
    private static bool IsPlain(ReadOnlySpan<byte> raw) => System.Text.Ascii.IsValid(raw) && !raw.Contains((byte)'\\');

    private static void Digits(JsonElement value, ArrayBufferWriter<byte> output)
    {
        var raw = JsonMarshal.GetRawUtf8Value(value);
        // A short integer is written as it is; zero has no sign.
        if (raw.Length is > 0 and <= 15 && raw[0] is >= (byte)'1' and <= (byte)'9' && raw.IndexOfAnyExceptInRange((byte)'0', (byte)'9') < 0)
        {
            output.Write(raw);
            return;
        }
        var number = value.GetDouble();
        var span = output.GetSpan(32);
        // Where .NET writes no exponent, its shortest digits are those of ECMA-262.
        if (
            double.IsFinite(number)
            && number != 0
            && number.TryFormat(span, out var written, "R", CultureInfo.InvariantCulture)
            && !span[..written].Contains((byte)'E')
        )
            output.Advance(written);
        else
            Ascii(output, Number(number));
    }

    /// <summary>A number as ECMA-262 writes it (Number::toString), which RFC 8785 takes over: the shortest digits that read back to the
    /// same double.</summary>
    /// <exception cref="BadInputException">Not finite.</exception>
    public static string Number(double value)
    {
        Require.Number(value, "json.number");
        if (value == 0)
            return "0";
        // The shortest digits come from .NET; value = 0.digits x 10^n.
        var shortest = Math.Abs(value).ToString("R", CultureInfo.InvariantCulture);
        var e = shortest.IndexOf('E', StringComparison.Ordinal);
        var parts = (e < 0 ? shortest : shortest[..e]).Split('.');
        var all = string.Concat(parts);
        var digits = all.TrimStart('0');
        var n =
            parts[0].Length
            + (e < 0 ? 0 : int.Parse(shortest.AsSpan(e + 1), NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture))
            - (all.Length - digits.Length);
        digits = digits.TrimEnd('0');
        var k = digits.Length;
        var sign = value < 0 ? "-" : "";
        if (k <= n && n <= 21)
            return sign + digits + new string('0', n - k);
        if (n is > 0 and <= 21)
            return sign + digits[..n] + "." + digits[n..];
        if (n is > -6 and <= 0)
            return sign + "0." + new string('0', -n) + digits;
        var exponent = (n - 1 < 0 ? "-" : "+") + Math.Abs(n - 1).ToString(CultureInfo.InvariantCulture);
        return sign + digits[..1] + (k > 1 ? "." + digits[1..] : "") + "e" + exponent;
    }

    private static void Text(string text, ArrayBufferWriter<byte> output)
    {
        Put(output, (byte)'"');
        var plain = 0;
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (c is not ('"' or '\\') && c >= ' ')
                continue;
            Utf8(text.AsSpan(plain, i - plain), output);
            plain = i + 1;
            Ascii(
                output,
                c switch
                {
                    '"' => "\\\"",
                    '\\' => "\\\\",
                    '\b' => "\\b",
                    '\t' => "\\t",
                    '\n' => "\\n",
                    '\f' => "\\f",
                    '\r' => "\\r",
                    _ => "\\u" + ((int)c).ToString("x4", CultureInfo.InvariantCulture),
                }
            );
        }
        Utf8(text.AsSpan(plain), output);
        Put(output, (byte)'"');
    }

    private static void Utf8(ReadOnlySpan<char> text, ArrayBufferWriter<byte> output)
    {
        if (text.IsEmpty)
            return;
        var span = output.GetSpan(Encoding.UTF8.GetMaxByteCount(text.Length));
        output.Advance(Encoding.UTF8.GetBytes(text, span));
    }

    private static void Ascii(ArrayBufferWriter<byte> output, string text)
    {
        var span = output.GetSpan(text.Length);
        output.Advance(Encoding.ASCII.GetBytes(text, span));
    }

    private static void Put(ArrayBufferWriter<byte> output, byte value)
    {
        output.GetSpan(1)[0] = value;
        output.Advance(1);
    }
}
