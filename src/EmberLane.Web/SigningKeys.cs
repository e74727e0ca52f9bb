using System.Security.Cryptography;
using System.Xml;
using EmberLane.Store;
using Microsoft.AspNetCore.DataProtection;

namespace EmberLane.Web;

/// <summary>The keys that sign cookies and forms.</summary>
internal static class SigningKeys
{
    /// <summary>Tries them. Throws <see cref="StoreException"/> when the folder of keys holds something that is none.</summary>
    public static void Try(DataFolder folder, IDataProtectionProvider provider)
    {
        try
        {
            provider.CreateProtector("start").Protect([1]);
            foreach (var key in Directory.EnumerateFiles(folder.Keys))
            {
                File.SetUnixFileMode(key, UnixFileMode.UserRead | UnixFileMode.UserWrite);
            }
        }
        catch (Exception e)
            when (e
                    is XmlException
                        or CryptographicException
                        or IOException
                        or UnauthorizedAccessException
                        or InvalidOperationException
                        or FormatException
            )
        {
            throw new StoreException(
                $"The folder {folder.Keys} holds a file that is not a key, or can not be written ({e.Message}). Move what does not belong "
                    + "there away; new keys are made, and nobody loses anything but open pages."
            );
        }
    }
}
