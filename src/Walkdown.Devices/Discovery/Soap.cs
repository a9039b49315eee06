using System.Security.Cryptography;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using Walkdown.Core.Measures;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>Messages of SOAP 1.2 as cameras speak it, read with everything off that XML could do beside saying something.</summary>
internal static class Soap
{
    public static readonly XNamespace Envelope = "http://www.w3.org/2003/05/soap-envelope";
    private static readonly XNamespace Security = "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";
    private static readonly XNamespace Utility = "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd";
    private const string DigestKind = "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-username-token-profile-1.0#PasswordDigest";

    /// <summary>Deeper than any device needs.</summary>
    private const int MostDepth = 40;

    private static readonly XmlReaderSettings Reading = new()
    {
        DtdProcessing = DtdProcessing.Prohibit,
        XmlResolver = null,
        MaxCharactersInDocument = FieldHttp.MostBytes,
        MaxCharactersFromEntities = 1024,
        IgnoreComments = true,
        IgnoreProcessingInstructions = true,
    };

    /// <summary>A message with one body.</summary>
    /// <param name="login">Shown by digest of the password, never by the password; null: none.</param>
    /// <param name="deviceNow">By the device's own clock, which it compares with.</param>
    public static string Write(XElement body, FieldLogin? login = null, DateTimeOffset? deviceNow = null)
    {
        var header = new XElement(Envelope + "Header");
        if (login is not null)
        {
            var nonce = RandomNumberGenerator.GetBytes(16);
            var created = (deviceNow ?? DateTimeOffset.UtcNow).ToString(
                "yyyy-MM-ddTHH:mm:ss.fffZ",
                System.Globalization.CultureInfo.InvariantCulture
            );
            header.Add(
                new XElement(
                    Security + "Security",
                    new XAttribute(Envelope + "mustUnderstand", "1"),
                    new XElement(
                        Security + "UsernameToken",
                        new XElement(Security + "Username", login.User),
                        new XElement(
                            Security + "Password",
                            new XAttribute("Type", DigestKind),
                            PasswordDigest(nonce, created, login.Password)
                        ),
                        new XElement(Security + "Nonce", Convert.ToBase64String(nonce)),
                        new XElement(Utility + "Created", created)
                    )
                )
            );
        }
        return new XElement(
            Envelope + "Envelope",
            new XAttribute(XNamespace.Xmlns + "s", Envelope),
            header,
            new XElement(Envelope + "Body", body)
        ).ToString(SaveOptions.DisableFormatting);
    }

    /// <summary>The digest of the username token profile 1.0.</summary>
    public static string PasswordDigest(byte[] nonce, string created, string password)
    {
        // The profile knows nothing newer than SHA-1.
#pragma warning disable CA5350
        return Convert.ToBase64String(SHA1.HashData([.. nonce, .. Encoding.UTF8.GetBytes(created + password)]));
#pragma warning restore CA5350
    }

    /// <summary>The first element of a message's body.</summary>
    /// <exception cref="FieldTrouble">It is no such message, or a fault.</exception>
    public static XElement Read(ReadOnlySpan<byte> bytes)
    {
        var body = Document(bytes).Root is { } root && root.Name == Envelope + "Envelope" ? root.Element(Envelope + "Body") : null;
        var said = body?.Elements().FirstOrDefault() ?? throw new FieldTrouble("asked.nonsense");
        if (said.Name != Envelope + "Fault")
            return said;
        var code = string.Join(' ', said.Descendants(Envelope + "Value").Select(v => Local(v.Value)));
        var reason = said.Descendants(Envelope + "Text").FirstOrDefault()?.Value.Trim() ?? "";
        throw code.Contains("NotAuthorized", StringComparison.OrdinalIgnoreCase)
        || code.Contains("FailedAuthentication", StringComparison.OrdinalIgnoreCase)
            ? new FieldTrouble("asked.login-wanted")
            : new FieldTrouble("asked.refused", Message.Said(Short(reason.Length > 0 ? reason : code)));
    }

    /// <summary>The whole message.</summary>
    /// <exception cref="FieldTrouble">It is not XML that may be read.</exception>
    public static XDocument Document(ReadOnlySpan<byte> bytes)
    {
        try
        {
            using var stream = new MemoryStream(bytes.ToArray());
            using (var deep = XmlReader.Create(stream, Reading))
                while (deep.Read())
                    if (deep.Depth > MostDepth)
                        throw new FieldTrouble("asked.nonsense");
            stream.Position = 0;
            using var reader = XmlReader.Create(stream, Reading);
            return XDocument.Load(reader);
        }
        catch (Exception problem)
            when (problem is XmlException or ArgumentException or InvalidOperationException or DecoderFallbackException)
        {
            throw new FieldTrouble("asked.nonsense");
        }
    }

    /// <summary>As much of what a device says as stands in one line.</summary>
    public static string Short(string text, int most = 80)
    {
        var line = string.Concat(text.Trim().Select(c => char.IsControl(c) ? ' ' : c));
        return line.Length <= most ? line : line[..most].TrimEnd() + "…";
    }

    private static string Local(string name) => name.Trim().Split(':')[^1];
}
